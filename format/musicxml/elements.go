package musicxml

import "encoding/xml"

// The elements that are written and read, named as the standard names them (MusicXML 4.0, W3C Community Group Report,
// 2021; from memory). encoding/xml writes fields in their order, which is the order that the standard asks for. What a
// lick does not need has no field: it is passed over when read.
type (
	xScore struct {
		XMLName xml.Name `xml:"score-partwise"`
		Version string   `xml:"version,attr"`
		Title   string   `xml:"work>work-title,omitempty"`
		Misc    []xMisc  `xml:"identification>miscellaneous>miscellaneous-field"`
		Parts   []xParts `xml:"part-list>score-part"`
		Part    []xPart  `xml:"part"`
	}
	// xMisc is what a program says that the standard has no element for: our key with its tones.
	xMisc struct {
		Name string `xml:"name,attr"`
		Text string `xml:",chardata"`
	}
	xParts struct {
		ID   string `xml:"id,attr"`
		Name string `xml:"part-name"`
	}
	xPart struct {
		ID       string     `xml:"id,attr"`
		Measures []xMeasure `xml:"measure"`
	}
	xMeasure struct {
		Number   string  `xml:"number,attr"`
		Implicit string  `xml:"implicit,attr,omitempty"`
		Items    []xItem `xml:",any"`
	}
	// xItem is any element of a measure; those of one kind are set. The order of a measure's elements is the order in
	// time, so that they are read as one list.
	//
	// A move is in divisions, ahead for forward and back for backup; Repeat is the direction of a bar line's repeat.
	xItem struct {
		XMLName    xml.Name
		Attributes *xAttributes
		Harmony    *xHarmony
		Direction  *xDirection
		Sound      *xSound
		Note       *xNote
		Move       int64 // backup and forward
		Repeat     string
		Times      int    // that a repeat is played, 0 where it is not said
		Ending     string // numbers of the times that a bar is played at, "1, 2"
		EndingType string // start, stop, discontinue
	}
	// Divisions is how many parts a quarter has from here on; every duration counts in them.
	xAttributes struct {
		Divisions *int64   `xml:"divisions"`
		Key       *xKey    `xml:"key"`
		Beats     string   `xml:"time>beats,omitempty"`
		Unit      string   `xml:"time>beat-type,omitempty"`
		Sign      string   `xml:"clef>sign,omitempty"`
		Line      string   `xml:"clef>line,omitempty"`
		Staff     *xStaff  `xml:"staff-details"`
		Transpose *xOctave `xml:"transpose"`
	}
	// xKey is a signature: so many sharps, below 0 flats, and whether it is major, minor or a mode.
	xKey struct {
		Fifths int    `xml:"fifths"`
		Mode   string `xml:"mode,omitempty"`
	}
	xOctave struct {
		Chromatic int `xml:"chromatic"`
		Octave    int `xml:"octave-change"`
	}
	// Lines of the staff are counted from the lowest, strings of a note from the thinnest: line 1 is the last string.
	xStaff struct {
		Lines  int       `xml:"staff-lines"`
		Tuning []xTuning `xml:"staff-tuning"`
		Capo   int       `xml:"capo,omitempty"`
	}
	xTuning struct {
		Line   int    `xml:"line,attr"`
		Step   string `xml:"tuning-step"`
		Alter  int    `xml:"tuning-alter,omitempty"`
		Octave int    `xml:"tuning-octave"`
	}
	// Offset is in divisions from where the element stands. The kind has the standard's word
	// for programs and, as its text, the sign as it is printed; the text is what comes back.
	xHarmony struct {
		Step   string `xml:"root>root-step"`
		Alter  int    `xml:"root>root-alter,omitempty"`
		Kind   xKind  `xml:"kind"`
		Bass   *xBass `xml:"bass"`
		Offset int64  `xml:"offset,omitempty"`
	}
	xBass struct {
		Step  string `xml:"bass-step"`
		Alter int    `xml:"bass-alter,omitempty"`
	}
	xKind struct {
		Text  string `xml:"text,attr,omitempty"`
		Value string `xml:",chardata"`
	}
	xDirection struct {
		Unit  string  `xml:"direction-type>metronome>beat-unit"`
		Dots  []xDot  `xml:"direction-type>metronome>beat-unit-dot"`
		Tempo string  `xml:"direction-type>metronome>per-minute"`
		Sound *xSound `xml:"sound"`
	}
	xDot   struct{}
	xSound struct {
		Tempo string  `xml:"tempo,attr,omitempty"`
		Swing *xSwing `xml:"swing"`
	}
	// Eighths two to one are a shuffle.
	xSwing struct {
		First  int    `xml:"first,omitempty"`
		Second int    `xml:"second,omitempty"`
		Type   string `xml:"swing-type,omitempty"`
	}
	// Chord says that it begins with the note before it. Duration is how long it lasts; type,
	// dots and tuplet are how that is printed, and are not read.
	xNote struct {
		Chord     *struct{}  `xml:"chord"`
		Pitch     *xPitch    `xml:"pitch"`
		Rest      *struct{}  `xml:"rest"`
		Duration  int64      `xml:"duration"`
		Ties      []xTie     `xml:"tie"`
		Voice     string     `xml:"voice,omitempty"`
		Type      string     `xml:"type,omitempty"`
		Dots      []struct{} `xml:"dot"`
		Tuplet    *xTuplet   `xml:"time-modification"`
		Head      *xHead     `xml:"notehead"`
		Staff     int        `xml:"staff,omitempty"`
		Notations *xNotation `xml:"notations"`
		Play      *xPlay     `xml:"play"`
	}
	// A head in brackets is a ghost note, an x a dead one.
	xHead struct {
		Brackets string `xml:"parentheses,attr,omitempty"`
		Value    string `xml:",chardata"`
	}
	xPlay struct {
		Mute string `xml:"mute,omitempty"`
	}
	xPitch struct {
		Step   string  `xml:"step"`
		Alter  float64 `xml:"alter,omitempty"`
		Octave int     `xml:"octave"`
	}
	xTie struct {
		Type string `xml:"type,attr"`
	}
	xTuplet struct {
		Actual int `xml:"actual-notes"`
		Normal int `xml:"normal-notes"`
	}
	xNotation struct {
		Tied          []xTie          `xml:"tied"`
		Slides        []xLine         `xml:"slide"`
		Ornaments     *xOrnaments     `xml:"ornaments"`
		Technical     *xTechnical     `xml:"technical"`
		Articulations *xArticulations `xml:"articulations"`
	}
	xLine struct {
		Type   string `xml:"type,attr"`
		Number int    `xml:"number,attr,omitempty"`
	}
	xOrnaments struct {
		Wavy []xLine `xml:"wavy-line"`
	}
	xArticulations struct {
		Accent *struct{} `xml:"accent"`
	}
	// What a guitarist writes has elements of its own: fret, string, fingering, pluck, hammer-on, pull-off, bend.
	// Strokes of the pick borrow those of the bow, whose signs they share (common practice). What the standard has no
	// element for is text of ours in other-technical.
	xTechnical struct {
		Up       *struct{} `xml:"up-bow"`
		Down     *struct{} `xml:"down-bow"`
		Finger   string    `xml:"fingering,omitempty"`
		Pluck    string    `xml:"pluck,omitempty"`
		Fret     *int      `xml:"fret"`
		String   int       `xml:"string,omitempty"`
		Hammers  []xPhase  `xml:"hammer-on"`
		Pulls    []xPhase  `xml:"pull-off"`
		Bends    []xBend   `xml:"bend"`
		Thumb    *struct{} `xml:"thumb-position"`
		OtherTxt []string  `xml:"other-technical"`
	}
	xPhase struct {
		Type   string `xml:"type,attr"`
		Number int    `xml:"number,attr,omitempty"`
		Text   string `xml:",chardata"`
	}
	// Alter is in half steps up from the fret; a release is a second bend, back down.
	xBend struct {
		Alter   float64   `xml:"bend-alter"`
		Pre     *struct{} `xml:"pre-bend"`
		Release *struct{} `xml:"release"`
	}
)

// MarshalXML writes the one element that the item is.
func (i xItem) MarshalXML(e *xml.Encoder, _ xml.StartElement) error {
	name := func(s string) xml.StartElement { return xml.StartElement{Name: xml.Name{Local: s}} }
	switch {
	case i.Attributes != nil:
		return e.EncodeElement(i.Attributes, name("attributes"))
	case i.Harmony != nil:
		return e.EncodeElement(i.Harmony, name("harmony"))
	case i.Direction != nil:
		return e.EncodeElement(i.Direction, name("direction"))
	case i.Sound != nil:
		return e.EncodeElement(i.Sound, name("sound"))
	case i.Note != nil:
		return e.EncodeElement(i.Note, name("note"))
	case i.Repeat != "":
		type repeat struct {
			Direction string `xml:"direction,attr"`
		}
		type barline struct {
			Location string `xml:"location,attr"`
			Repeat   repeat `xml:"repeat"`
		}
		side := map[string]string{"forward": "left", "backward": "right"}[i.Repeat]
		return e.EncodeElement(barline{side, repeat{i.Repeat}}, name("barline"))
	}
	type move struct {
		Duration int64 `xml:"duration"`
	}
	return e.EncodeElement(move{i.Move}, name(i.XMLName.Local))
}

// UnmarshalXML reads one element of a measure; what is not known is passed over.
func (i *xItem) UnmarshalXML(d *xml.Decoder, start xml.StartElement) error {
	i.XMLName = start.Name
	switch start.Name.Local {
	case "attributes":
		return d.DecodeElement(&i.Attributes, &start)
	case "harmony":
		return d.DecodeElement(&i.Harmony, &start)
	case "direction":
		return d.DecodeElement(&i.Direction, &start)
	case "sound":
		return d.DecodeElement(&i.Sound, &start)
	case "note":
		return d.DecodeElement(&i.Note, &start)
	case "backup", "forward":
		var m struct {
			Duration int64 `xml:"duration"`
		}
		err := d.DecodeElement(&m, &start)
		i.Move = m.Duration
		return err
	case "barline":
		var b struct {
			Repeat struct {
				Direction string `xml:"direction,attr"`
				Times     int    `xml:"times,attr"`
			} `xml:"repeat"`
			Ending struct {
				Number string `xml:"number,attr"`
				Type   string `xml:"type,attr"`
			} `xml:"ending"`
		}
		err := d.DecodeElement(&b, &start)
		i.Repeat, i.Times = b.Repeat.Direction, b.Repeat.Times
		i.Ending, i.EndingType = b.Ending.Number, b.Ending.Type
		return err
	}
	return d.Skip()
}
