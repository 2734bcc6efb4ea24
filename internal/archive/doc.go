// Package archive carries a whole notebook as plain files in a zip: a folder a lick with a
// lick file for every version and history.json that says how they hang together;
// palettes.json, recipes.json and player.json beside them.
//
// All of it can be read without Ornamen. Reading is strict and bounded: number and size of
// files, unknown fields, a version without its file. An archive is added whole, or nothing
// of it is.
package archive
