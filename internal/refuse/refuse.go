// Package refuse tells what a player asked for in vain from a fault of ours. A refusal is one sentence that says what
// was wrong with what was asked; nothing was changed. Every other error is a fault: its cause goes into a log, and
// nobody is told that it was theirs.
package refuse

import (
	"errors"
	"fmt"
)

// refusal is an error that is said to the player as it is.
type refusal struct{ error }

// Unwrap gives what is refused.
func (r refusal) Unwrap() error { return r.error }

// With is a refusal in these words.
func With(format string, args ...any) error { return refusal{fmt.Errorf(format, args...)} }

// Of makes a refusal of an error whose words are meant for the player; nil stays nil.
func Of(err error) error {
	if err == nil || Is(err) {
		return err
	}
	return refusal{err}
}

// Is says whether an error is a refusal, or holds one.
func Is(err error) bool {
	var r refusal
	return errors.As(err, &r)
}
