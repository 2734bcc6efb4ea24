// Package draw makes the application's pictures as SVG, on the server. Colours and fonts are classes that the style
// sheet knows; the drawings carry titles and labels for screen readers.
//
// A drawing is a function of values: Neck, Ledger, a report, a run. The same values give the same bytes, which is how
// the page knows that nothing has changed. Units are the drawing's own, the page scales it; the neck alone is in
// millimetres, so that distances are true.
//
// What a shape means never hangs on its colour: a root is a disc with a ring, a scale tone a disc, a colour note a
// lozenge, an outside tone an open triangle; loads are hatched as well as coloured.
package draw
