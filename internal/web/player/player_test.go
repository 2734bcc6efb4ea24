package player_test

import (
	"fmt"
	"testing"

	"ornamen/core/testline"
	"ornamen/internal/web/webtest"
)

// usual is the form of the default player, with one field said otherwise.
func usual(base uint, name, value string) []string {
	form := []string{"base", fmt.Sprint(base)}
	for _, f := range [][2]string{
		{"tuning", "E4 B3 G3 D3 A2 E2"},
		{"gauges", "10 13 17 26w 36w 46w"},
		{"scale", "648"},
		{"frets", "22"},
		{"size", "medium"},
		{"way", "alternate"},
		{"angle", "either"},
		{"boxes", "minor"},
		{"strict", "usual"},
		{"helpers", "many"},
	} {
		if f[0] == name {
			f[1] = value
		}
		form = append(form, f[0], f[1])
	}
	return form
}

// Two pages of one player: fields that differ are put together, the same field set twice is refused, and what the two
// come to together has to be a player.
func TestTwoPages(t *testing.T) {
	c := webtest.New(t, testline.Read(t, "A minor pentatonic", "3:5 7 2:5 8"))
	revision := func() uint {
		t.Helper()
		x, err := c.Store.Settings(t.Context(), 1)
		if err != nil {
			t.Fatal(err)
		}
		return x.Revision
	}
	status, body := c.Post("/player", usual(0, "size", "small")...)
	c.Says("one", status, body, 200, "Small hand")
	base := revision()
	status, body = c.Post("/player", usual(0, "frets", "24")...)
	c.Says("the other, of the page before", status, body, 200, "Small hand", "24 frets")
	status, body = c.Post("/player", usual(0, "frets", "21")...)
	c.Says("the same field", status, body, 409, "changed elsewhere")
	status, body = c.Post("/player/undo", "base", fmt.Sprint(base))
	c.Says("undo of an older page", status, body, 409, "changed elsewhere")
	status, body = c.Post("/player/undo", "base", fmt.Sprint(revision()))
	c.Says("undo", status, body, 200, "Small hand", "22 frets")
	status, body = c.Post("/player/redo", "base", fmt.Sprint(revision()))
	c.Says("redo", status, body, 200, "24 frets")
	status, body = c.Post("/player/redo", "base", fmt.Sprint(revision()))
	c.Says("redo of nothing", status, body, 409, "nothing to redo")
	for _, bad := range [][2]string{
		{"frets", "2"}, {"scale", "tall"}, {"tuning", "E4 E4"}, {"size", "giant"}, {"helpers", "all"},
	} {
		before := revision()
		status, body = c.Post("/player", usual(before, bad[0], bad[1])...)
		c.Says(bad[0]+" "+bad[1], status, body, 422)
		if revision() != before {
			t.Errorf("%v changed the player", bad)
		}
	}
	// Seven strings here and other gauges there are each possible, and together no guitar.
	before := revision()
	form := usual(before, "tuning", "E4 B3 G3 D3 A2 E2 B1")
	form[5] = "10 13 17 26w 36w 46w 59w"
	if status, body = c.Post("/player", form...); status != 200 {
		t.Fatalf("%d %.200s", status, body)
	}
	held := revision()
	status, body = c.Post("/player", usual(before, "gauges", "9 11 16 24w 32w 42w")...)
	if status < 400 || status >= 500 || revision() != held {
		t.Errorf("six gauges for seven strings: %d %.200s", status, body)
	}
}

// Nobody is added twice, the last one stays, and who goes can come back.
func TestPeople(t *testing.T) {
	c := webtest.New(t)
	for _, s := range []struct {
		do, id, name string
		want         int
		words        string
	}{
		{
			do:    "add",
			name:  "Juna",
			want:  200,
			words: "Juna",
		}, {
			do:    "add",
			name:  "juna",
			want:  422,
			words: "already",
		}, {do: "add", name: "  ", want: 422, words: "name is missing"},
		{
			do:    "rename",
			id:    "2",
			name:  "Tove",
			want:  200,
			words: "Tove",
		}, {do: "copy", id: "2", want: 200, words: "Tove, copy"},
		{do: "remove", id: "2", want: 200, words: "Bring Tove back"},
		{
			do:   "remove",
			id:   "3",
			want: 200,
		}, {
			do:    "remove",
			id:    "1",
			want:  422,
			words: "omebody has to play",
		}, {do: "return", id: "2", want: 200, words: "Tove"},
		{do: "dance", id: "1", want: 422, words: "nothing that can be done"}, {do: "return", id: "9", want: 404},
	} {
		status, body := c.Post("/player/people", "do", s.do, "id", s.id, "name", s.name)
		c.Says(s.do+" "+s.name, status, body, s.want, s.words)
	}
	// Of two pages that name one player the older one is told so.
	c.Post("/player/people", "do", "add", "name", "Ari")
	status, body := c.Post("/player/people", "do", "rename", "id", "4", "was", "Ari", "name", "Aro")
	c.Says("the first page", status, body, 200, "Aro")
	status, body = c.Post("/player/people", "do", "rename", "id", "4", "was", "Ari", "name", "Ara")
	c.Says("the older page", status, body, 409, "changed elsewhere")
}
