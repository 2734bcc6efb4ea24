// Package web is the application in the browser: chi routes, view models and templates.
// Rules of the trade live in core, drawings in draw.
//
// # A screen
//
// Each screen has a type (benchScreen, notebookScreen, tonesScreen, runsScreen, changesScreen,
// playerScreen), which is the App under another name: handlers in the file of its name,
// what the page shows in the file beside it, and a template. A handler decodes a form,
// asks the store and the core, and renders a view; it holds no rule of the trade and no
// SQL. A new screen is a type, its routes in app.go, a template and a tab.
//
// # What they share
//
//   - app.go: routes, templates, the server and its limits.
//   - guard.go: who may ask. Own pages only, a strict
//     Content-Security-Policy, limits of size and time.
//   - answer.go: how a page, a fragment, a notice or a refusal is answered. A refusal is
//     one sentence and changes nothing.
//   - entries.go, reports.go: a lick at a revision, its judgement, and edits that are made
//     on it.
//   - playing.go: who plays.
//
// # Pages that lose nothing
//
// Every edit names the revision it was made on. If another tab was first the store keeps
// the edit aside, and the page says so and shows the newer line. Tones and Runs keep all
// of their state in the address, so that the browser's Back is undo there. A fragment that
// has not changed is not sent again (parts.go). Without a script the pages work by links
// and forms; the script adds keys.
//
// Work that takes longer than a blink runs as a job that ends with its page.
//
// It is larger than other rooms because it holds all screens.
package web
