// The page for the music stand is printed by its button, which a page that was saved does not have.
'use strict';

const printing = document.querySelector('#print');
printing.hidden = false;
printing.addEventListener('click', () => print());
