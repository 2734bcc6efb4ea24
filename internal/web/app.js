// Only what must move in the browser: the caret, the keys, what is lit. Every change is made by the
// server, which sends back the fragments that changed. Each screen has a module of its own, which looks
// for its screen and leaves other pages alone.
import './page.js';
import './combo.js';
import './notebook.js';
import './playin.js';
import './tones.js';
import './runs.js';
import './changes.js';
import './practice.js';
import './player.js';
import './bench.js';
import './sets.js';

// All of them are there: keys and words that are typed from now on are heard.
document.body.dataset.heard = 'yes';
