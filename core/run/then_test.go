package run_test

import (
	"strings"
	"testing"

	"ornamen/core/neck"
	"ornamen/core/run"
)

// A recipe of several parts plays one after the other, each as it would be by itself.
func TestThen(t *testing.T) {
	g := neck.Standard()
	for _, c := range []struct {
		line  string
		parts []string // each complete, as it grows by itself
	}{
		{`--key "A minor pentatonic" --cell "1 2 3" --times 4 --then --times 3 --dir down`,
			[]string{`--key "A minor pentatonic" --cell "1 2 3" --times 4`,
				`--key "A minor pentatonic" --cell "1 2 3" --times 3 --dir down`}},
		{`--key "A minor pentatonic" --add b5 --layout box --at 6:5 --cell "1 2 3" --times 2 --count 8 --then --layout string:2 --cell "1 3" --times 2 --then --key "D dorian" --times 1 --count 16`,
			[]string{`--key "A minor pentatonic" --add b5 --layout box --at 6:5 --cell "1 2 3" --times 2 --count 8`,
				`--key "A minor pentatonic" --add b5 --layout string:2 --cell "1 3" --times 2 --count 8`,
				`--key "D dorian" --cell "1 3" --times 1 --count 16`}},
		{`--key "A minor" --cell "1 2 - ." --times 1 --then --times 2 --displace 1/4 --land 1`,
			[]string{`--key "A minor" --cell "1 2 - ." --times 1`,
				`--key "A minor" --cell "1 2 - ." --times 2 --displace 1/4 --land 1`}},
	} {
		r, err := run.Parse(c.line)
		if err != nil {
			t.Errorf("%s: %v", c.line, err)
			continue
		}
		if r.String() != c.line {
			t.Errorf("%s is written %s", c.line, r)
		}
		whole, err := run.Grow(r, g)
		if err != nil {
			t.Errorf("%s: %v", c.line, err)
			continue
		}
		if whole.Lick.Recipe != c.line {
			t.Errorf("%s is kept as %s", c.line, whole.Lick.Recipe)
		}
		n, cells := 0, 0
		for _, line := range c.parts {
			part, err := run.Parse(line)
			if err != nil {
				t.Fatal(err)
			}
			alone, err := run.Grow(part, g)
			if err != nil {
				t.Fatal(err)
			}
			first := whole.Lick.Notes[n].At.Sub(alone.Lick.Notes[0].At)
			for i, want := range alone.Lick.Notes {
				got := whole.Lick.Notes[n+i]
				if got.Place() != want.Place() || got.Len.Cmp(want.Len) != 0 || got.At.Sub(first).Cmp(want.At) != 0 {
					t.Errorf("%s: note %d is %v at %v", c.line, n+i+1, got.Place(), got.At)
				}
			}
			own := alone.Lick.Key
			if tones := whole.Lick.KeyAt(whole.Lick.Notes[n].At); tones.Tonic+tones.Scale != own.Tonic+own.Scale {
				t.Errorf("%s: note %d has the tones %v", c.line, n+1, tones)
			}
			n, cells = n+len(alone.Lick.Notes), cells+len(alone.Cells)
		}
		if n != len(whole.Lick.Notes) || cells != len(whole.Cells) {
			t.Errorf("%s: %d notes in %d cells, %d in %d alone", c.line, len(whole.Lick.Notes), len(whole.Cells), n,
				cells)
		}
		// Complete and brief are two ways to say one run.
		if parts, err := r.Parts(); err != nil || run.Brief(parts).String() != c.line {
			t.Errorf("%s in brief: %s, %v", c.line, run.Brief(parts), err)
		}
	}
}

// A part after the first begins where the steps before it end: a rest at the end of a cell counts.
func TestThenAfterARest(t *testing.T) {
	r, err := run.Parse(`--key "A minor pentatonic" --cell "1 2 . ." --times 1 --then --times 1`)
	if err != nil {
		t.Fatal(err)
	}
	x, err := run.Grow(r, neck.Standard())
	if err != nil || len(x.Lick.Notes) != 4 || x.Lick.Notes[2].At.String() != "1/4" {
		t.Errorf("%v: %v", err, x.Lick.Notes)
	}
}

// The landing of the last part sets when the whole begins: 24 sixteenths and a landing on 1 begin
// on 3 of the bar before.
func TestThenLands(t *testing.T) {
	r, err := run.Parse(`--key "A minor pentatonic" --cell "1 2 3" --times 4 --then --dir down --times 4 --land 1@1`)
	if err != nil {
		t.Fatal(err)
	}
	x, err := run.Grow(r, neck.Standard())
	if err != nil || x.Lick.Pickup.String() != "1/2" || x.Landing != 25 {
		t.Errorf("%v: pick-up %v, landing %d", err, x.Lick.Pickup, x.Landing)
	}
}

// What cannot be is said in one sentence that names the word.
func TestThenRefused(t *testing.T) {
	for line, want := range map[string]string{
		`--key "A minor" --cell "1 2" --then`:                                     "what the next part plays",
		`--key "A minor" --cell "1 2" --then --tempo 90`:                          "tempo of a run is said in its first part",
		`--key "A minor" --cell "1 2" --then --loop`:                              "loop of a run",
		`--key "A minor" --cell "1 2" --then --times x`:                           "whole number",
		`--key "A minor" --cell "1 2" --then --cell "zz"`:                         `"zz"`,
		`--key "A minor" --cell "1 2"` + strings.Repeat(" --then --dir down", 40): "at most 32 parts",
	} {
		if _, err := run.Parse(line); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%.60s: %v", line, err)
		}
	}
	for line, want := range map[string]string{
		`--key "A minor" --cell "1 2" --land 1@1 --then --dir down`:          "only the last part",
		`--key "A minor" --cell "1 2" --from 3 --then --dir down --land 1@1`: "where it likes",
		`--key "A minor" --cell "1 2" --then --times 400`:                    "part 2",
	} {
		r, err := run.Parse(line)
		if err != nil {
			t.Errorf("%s: %v", line, err)
			continue
		}
		if _, err := run.Grow(r, neck.Standard()); err == nil || !strings.Contains(err.Error(), want) {
			t.Errorf("%s: %v", line, err)
		}
	}
}

// A word of one part is changed by its number, parts are added and left out.
func TestPartsAreChanged(t *testing.T) {
	r, err := run.Parse(`--key "A minor" --cell "1 2" --then --dir down`)
	if err != nil {
		t.Fatal(err)
	}
	if err := r.SetPart(1, "cell", "3 2 1"); err != nil {
		t.Fatal(err)
	}
	r.AddPart(run.Recipe{Move: "2"})
	if got, want := r.String(), `--key "A minor" --cell "1 2" --then --cell "3 2 1" --dir down --then --move 2`; got != want {
		t.Errorf("%s, want %s", got, want)
	}
	r.RemovePart(1)
	r.RemovePart(0) // the first one stays
	if got, want := r.String(), `--key "A minor" --cell "1 2" --then --move 2`; got != want {
		t.Errorf("%s, want %s", got, want)
	}
	before := r
	if err := r.SetPart(5, "cell", "1"); err == nil || r != before {
		t.Errorf("%v: %s", err, r)
	}
}
