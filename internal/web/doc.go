// Package web is the application in the browser: the screens put together, and the server around them.
//
// # A screen
//
// Each screen is a room below this one: a type Screen with its handlers, what its pages show, its templates (*.html),
// its script and its style. A handler decodes a form, asks the store and the core, and renders a view; it holds no rule
// of the trade and no SQL. No screen knows another: what two of them need lies in page, what two of them show in view,
// and what is drawn in draw. A new screen is such a room, its row in New, and a tab in page/layout.html.
//
// # Pages that lose nothing
//
// Every edit names the revision it was made on. If another tab was first the store keeps the edit aside, and the page
// says so and shows the newer line. Tones and Runs keep all of their state in the address, so that the browser's Back
// is undo there. A fragment that has not changed is not sent again. Without a script the pages work by links and forms;
// the script adds keys.
//
// Work that takes longer than a blink runs as a job that ends with its page.
package web
