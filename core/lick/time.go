package lick

import (
	"fmt"
	"math/bits"
	"strconv"
	"strings"

	"ornamen/core/text"
)

// Time is an exact time or length, a fraction of a whole note. The zero value is 0. Fractions are kept reduced with a
// positive denominator, so that equal times are equal values and can be keys of a map.
//
// Sums of fractions may need denominators beyond 64 bits. Such a result is tooFine, a time far beyond any lick, which
// Validate refuses: arithmetic has no errors, and no line with a wrong time is kept.
type Time struct {
	num, den int64 // den 0 means 1, so that the zero value works
}

// MaxPart is the largest numerator and denominator that a file may hold.
const MaxPart = 1_000_000

// tooFine is what arithmetic yields that leaves the range; Valid refuses it.
var tooFine = Time{1 << 50, 1}

// NewTime reduces num/den; den must not be 0.
func NewTime(num, den int64) Time {
	if num == 0 {
		return Time{}
	}
	if den < 0 {
		num, den = -num, -den
	}
	if g := gcd(abs(num), den); g > 1 {
		num, den = num/g, den/g
	}
	return Time{num, den}
}

// ParseTime reads "0", "1" or "3/16". Signs are refused.
func ParseTime(s string) (Time, error) {
	n, d, slash := strings.Cut(s, "/")
	num, err := parsePart(n)
	den := int64(1)
	if err == nil && slash {
		den, err = parsePart(d)
	}
	if err != nil || den == 0 {
		return Time{}, fmt.Errorf(
			"%q is not a time: write a fraction of a whole note such as 3/16, its numbers up to 1000000",
			text.Clip(s, 40),
		)
	}
	return NewTime(num, den), nil
}

// parsePart reads one side of a fraction; more than fits is refused, not cut off.
func parsePart(s string) (int64, error) {
	if s == "" || s[0] < '0' || s[0] > '9' {
		return 0, strconv.ErrSyntax
	}
	n, err := strconv.ParseInt(s, 10, 64)
	if err == nil && n > MaxPart {
		err = strconv.ErrRange
	}
	return n, err
}

// Parts are the reduced numerator and denominator.
func (t Time) Parts() (num, den int64) { return t.num, max(t.den, 1) }

// Valid says whether a file may hold the time. Times below 0 are for differences.
func (t Time) Valid() bool {
	n, d := t.Parts()
	return n >= 0 && n <= MaxPart && d <= MaxPart
}

// Add is t+u.
func (t Time) Add(u Time) Time {
	a, b := t.Parts()
	c, d := u.Parts()
	x, ok1 := mul(a, d)
	y, ok2 := mul(c, b)
	z, ok3 := mul(b, d)
	if !ok1 || !ok2 || !ok3 || abs(x) > 1<<60 || abs(y) > 1<<60 {
		return tooFine
	}
	return NewTime(x+y, z)
}

// Sub is t−u.
func (t Time) Sub(u Time) Time { return t.Add(Time{-u.num, u.den}) }

// Times is t·n.
func (t Time) Times(n int64) Time {
	num, den := t.Parts()
	x, ok := mul(num, n)
	if !ok {
		return tooFine
	}
	return NewTime(x, den)
}

// Mul is t·u, for a factor u.
func (t Time) Mul(u Time) Time {
	a, b := t.Parts()
	c, d := u.Parts()
	x, ok1 := mul(a, c)
	y, ok2 := mul(b, d)
	if !ok1 || !ok2 {
		return tooFine
	}
	return NewTime(x, y)
}

// Cmp is −1, 0 or 1 as t is before, at or after u. The products of the cross multiplication are
// taken in 128 bits, so that any two times compare.
func (t Time) Cmp(u Time) int {
	a, b := t.Parts()
	c, d := u.Parts()
	if (a < 0) != (c < 0) {
		if a < 0 {
			return -1
		}
		return 1
	}
	h1, l1 := bits.Mul64(uint64(abs(a)), uint64(d))
	h2, l2 := bits.Mul64(uint64(abs(c)), uint64(b))
	sign := 0
	switch {
	case h1 < h2 || h1 == h2 && l1 < l2:
		sign = -1
	case h1 > h2 || l1 > l2:
		sign = 1
	}
	if a < 0 {
		return -sign
	}
	return sign
}

// Before says whether t comes before u.
func (t Time) Before(u Time) bool { return t.Cmp(u) < 0 }

// IsZero says whether t is 0.
func (t Time) IsZero() bool { return t.num == 0 }

// Float is the fraction of a whole note, for drawing and for milliseconds.
func (t Time) Float() float64 {
	n, d := t.Parts()
	return float64(n) / float64(d)
}

// Div splits t by a unit: how many whole units lie in it and what is left. Both must not be negative and unit must not
// be 0. As an example, 11/8 by a bar of 4/4 is 1 and 3/8.
func (t Time) Div(unit Time) (whole int64, rest Time) {
	q := t.Add(Time{}) // reduced copy
	a, b := q.Parts()
	c, d := unit.Parts()
	x, ok1 := mul(a, d)
	y, ok2 := mul(b, c)
	if !ok1 || !ok2 || y == 0 {
		return 0, t
	}
	whole = x / y
	return whole, t.Sub(unit.Times(whole))
}

// String writes "0", "1" or "3/16".
func (t Time) String() string {
	n, d := t.Parts()
	if d == 1 {
		return strconv.FormatInt(n, 10)
	}
	return strconv.FormatInt(n, 10) + "/" + strconv.FormatInt(d, 10)
}

// MarshalText writes the fraction.
func (t Time) MarshalText() ([]byte, error) { return []byte(t.String()), nil }

// UnmarshalText reads the fraction.
func (t *Time) UnmarshalText(b []byte) (err error) {
	*t, err = ParseTime(string(b))
	return err
}

// mul multiplies, ok false where the product does not fit.
func mul(a, b int64) (int64, bool) {
	hi, lo := bits.Mul64(uint64(abs(a)), uint64(abs(b)))
	if hi != 0 || lo > 1<<62 {
		return 0, false
	}
	if (a < 0) != (b < 0) {
		return -int64(lo), true
	}
	return int64(lo), true
}

// abs is the absolute value; times never hold the least integer, which has none.
func abs(a int64) int64 {
	if a < 0 {
		return -a
	}
	return a
}

// gcd is the greatest common divisor (Euclid).
func gcd(a, b int64) int64 {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}
