// Package defaults is the form in which each part of the model lists the values it assumes: what, how much, in which
// unit, and where it is from. docs/model.md prints the lists.
package defaults

import "cmp"

// Where values come from.
const (
	Model    = "model default" // ours, for an intermediate player; measurements replace it
	Handbook = "handbook value"
	Practice = "common practice"
)

// Row is one assumed value. Value is read from the constant that the sums use. From is a source, or one of the words
// above; a unit is empty for a factor. Check is the test that fails without the value, where a list names one.
type Row struct {
	Name  string
	Value float64
	Unit  string
	From  string
	Check string
}

// Ours are values of our own, model defaults, but for those that name where they are from.
func Ours(rows ...Row) []Row {
	for i := range rows {
		rows[i].From = cmp.Or(rows[i].From, Model)
	}
	return rows
}
