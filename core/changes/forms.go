package changes

// Form is a row of chords that players know by a name.
type Form struct {
	Name string // in a few words
	Text string // in degrees, as Parse reads it
}

// forms are the stock of common forms (common practice).
var forms = []Form{
	{"twelve-bar blues", "17 | 17 | 17 | 17 | 47 | 47 | 17 | 17 | 57 | 47 | 17 | 57"},
	{"twelve-bar, quick change", "17 | 47 | 17 | 17 | 47 | 47 | 17 | 17 | 57 | 47 | 17 | 57"},
	{"minor blues", "1m7 | 1m7 | 1m7 | 1m7 | 4m7 | 4m7 | 1m7 | 1m7 | b6maj7 | 57 | 1m7 | 57"},
	{"eight-bar blues", "17 | 57 | 47 | 47 | 17 | 57 | 17 47 | 17 57"},
	{"2 5 1, major", "2m7 | 57 | 1maj7 | 1maj7"},
	{"2 5 1, minor", "2m7b5 | 57b9 | 1m7 | 1m7"},
	{"one-chord vamp, minor", "1m7 | 1m7 | 1m7 | 1m7"},
	{"one-chord vamp, dominant", "17 | 17 | 17 | 17"},
	{"minor vamp, 1 and 4", "1m7 | 47 | 1m7 | 47"},
	{"lowered second riff", "1m | 1m b2 | 1m | b2 1m"},
	{"turn 1 5 6 4", "1 | 5 | 6m | 4"},
	{"turn 6 4 1 5", "6m | 4 | 1 | 5"},
	{"turn 1 6 2 5", "1maj7 6m7 | 2m7 57"},
	{"descent to the 5, minor", "1m | b7 | b6 | 5"},
}

// Forms lists the stock of common forms.
func Forms() []Form { return append([]Form{}, forms...) }

// FormNamed finds a form by its name.
func FormNamed(name string) (Form, bool) {
	for _, f := range forms {
		if f.Name == name {
			return f, true
		}
	}
	return Form{}, false
}
