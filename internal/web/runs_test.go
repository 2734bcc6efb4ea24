package web

import (
	"context"
	"fmt"
	"net/url"
	"regexp"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/run"
	"ornamen/core/testline"
	"ornamen/internal/store"
)

// Bad input on the new screens: one sentence, the right status, nothing changed.
func TestScreensRefuse(t *testing.T) {
	c := newClient(t, boxLine(t, 8))
	at := func(path string, q ...string) string {
		v := url.Values{}
		for i := 0; i+1 < len(q); i += 2 {
			v.Set(q[i], q[i+1])
		}
		return path + "?" + v.Encode()
	}
	lickPath := fmt.Sprintf("/licks/%d", c.id)
	for _, x := range []struct {
		name, path string
		status     int
		want       string
	}{
		{name: "no such scale", path: at("/runs", "key", "A dorain", "cell", "1"), status: 422, want: "dorian"},
		{name: "no such step", path: at("/runs", "key", "A dorian", "cell", "1 z"), status: 422, want: "&#34;z&#34;"},
		{
			name:   "no room",
			path:   at("/runs", "key", "A minor pentatonic", "cell", "1", "times", "90"),
			status: 422,
			want:   "room for",
		},
		{
			name:   "no number",
			path:   at("/runs", "key", "A dorian", "cell", "1", "times", "many"),
			status: 422,
			want:   "whole number",
		},
		{
			name:   "too long",
			path:   at("/runs", "key", "A dorian", "cell", "1 2 3 4", "move", "stay", "times", "2000"),
			status: 422,
			want:   "more than 2048",
		},
		{
			name:   "unknown lick",
			path:   at("/runs", "key", "A dorian", "cell", "1", "lick", "999"),
			status: 404,
			want:   "notebook",
		},
		{name: "no such kind", path: at(lickPath+"/ways", "value", "sideways"), status: 422, want: "no kind of ways"},
		{
			name:   "turned",
			path:   at(lickPath+"/ways", "value", "turned", "note", "3"),
			status: 200,
			want:   "Begun on note 3",
		},
		{name: "no bend there", path: at(lickPath+"/ways", "value", "bend", "note", "1"), status: 200, want: "no bend"},
		{
			name:   "a tail",
			path:   at(lickPath+"/ways", "value", "tail", "note", "8"),
			status: 200,
			want:   "Climb to the upper root",
		},
		{name: "moved", path: at(lickPath+"/ways", "value", "moved"), status: 200, want: "a tone up"},
		{name: "no chords", path: at(lickPath+"/ways", "value", "chords"), status: 200, want: "A beat later"},
		{name: "no such way", path: at(lickPath+"/hands", "way", "windmill"), status: 422, want: "alternate"},
		{name: "hands of no lick", path: "/licks/999/hands", status: 404, want: "notebook"},
		{name: "markup", path: at("/runs", "key", "A dorian", "cell", "<script>"), status: 422, want: "&lt;script&gt;"},
	} {
		res, body := c.get(x.path)
		if res.StatusCode != x.status || !strings.Contains(body, x.want) {
			t.Errorf("%s: %d, want %d with %q\n%s", x.name, res.StatusCode, x.status, x.want,
				body[:min(len(body), 900)])
		}
		if strings.Contains(body, "<script>alert") || strings.Contains(body, "panic") {
			t.Errorf("%s: markup or a trace comes through", x.name)
		}
	}
	if e, _ := c.store.Get(context.Background(), c.id); e.CanUndo {
		t.Error("a refusal changed the lick")
	}
}

// A run goes to the bench with its recipe, and a changed recipe grows the same
// lick again without losing what was locked.
func TestRunToBenchAndBack(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	form := url.Values{
		"key":   {"A minor pentatonic"},
		"at":    {"6:5"},
		"cell":  {"1 2 3"},
		"times": {"4"},
		"use":   {"alternate, from up"},
	}
	res, _ := c.post("/runs/lick", form)
	all, err := c.licks()
	if err != nil || len(all) != 2 {
		t.Fatalf("status %d, %d licks, %v", res.StatusCode, len(all), err)
	}
	e := all[0]
	if e.Lick.Recipe == "" || len(e.Lick.Notes) != 12 || e.Lick.Notes[0].Stroke != lick.Up {
		t.Fatalf("%q, %d notes, first stroke %q", e.Lick.Recipe, len(e.Lick.Notes), e.Lick.Notes[0].Stroke)
	}
	l, err := (lick.SetFinger{Note: 1, Finger: lick.Ring}).Apply(e.Lick)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := c.store.Commit(context.Background(), e.ID, e.Revision, l, "finger"); err != nil {
		t.Fatal(err)
	}
	form.Set("times", "6")
	form.Set("lick", fmt.Sprint(e.ID))
	newest, err := c.store.Get(context.Background(), e.ID)
	if err != nil {
		t.Fatal(err)
	}
	form.Set("rev", fmt.Sprint(newest.Revision))
	form.Del("use")
	if res, body := c.post("/runs/lick", form); res.StatusCode >= 400 {
		t.Fatalf("%d %s", res.StatusCode, body)
	}
	again, err := c.store.Get(context.Background(), e.ID)
	if err != nil || len(again.Lick.Notes) != 18 {
		t.Fatalf("%d notes, %v", len(again.Lick.Notes), err)
	}
	if n := again.Lick.Notes[1]; n.Finger != lick.Ring || !n.Locked(lick.FieldFinger) {
		t.Errorf("the locked finger is gone: %+v", n)
	}
	if r, err := run.Parse(again.Lick.Recipe); err != nil || r.Times != 6 {
		t.Errorf("recipe %q, %v", again.Lick.Recipe, err)
	}
	if len(all) != 2 {
		t.Error("growing again made another lick")
	}
}

// Saved recipes come and go by name.
func TestSavedRecipes(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	form := url.Values{"key": {"A minor pentatonic"}, "cell": {"1 2 3"}, "name": {"Ladder"}}
	if res, body := c.post("/runs/saved", form); res.StatusCode >= 400 || !strings.Contains(body, "Ladder") {
		t.Fatalf("%d", res.StatusCode)
	}
	form.Set("name", " ")
	if res, _ := c.post("/runs/saved", form); res.StatusCode != 422 {
		t.Errorf("a recipe without a name: %d", res.StatusCode)
	}
	saved, _ := c.store.Recipes(context.Background())
	if len(saved) != 1 {
		t.Fatalf("%d recipes", len(saved))
	}
	c.post(fmt.Sprintf("/runs/saved/%d/forget", saved[0].ID), url.Values{})
	if saved, _ := c.store.Recipes(context.Background()); len(saved) != 0 {
		t.Error("it is not forgotten")
	}
}

// Strokes that the cell sets are those of the run, here as on the command line, and the ways that
// take their place say so.
func TestSetStrokesStay(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	form := url.Values{
		"key":   {"A minor pentatonic"},
		"at":    {"6:5"},
		"cell":  {"D1 D2 U3"},
		"times": {"4"},
		"pick":  {"alternate"},
	}
	if _, body := c.get("/runs?" + form.Encode()); !strings.Contains(body, "The cell sets its strokes") {
		t.Error("the ways that drop the cell's strokes do not say so")
	}
	c.post("/runs/lick", form)
	all, err := c.licks()
	if err != nil || len(all) != 2 {
		t.Fatalf("%d licks, %v", len(all), err)
	}
	got := ""
	for _, n := range all[0].Lick.Notes {
		got += string(n.Stroke[:1])
	}
	if got != "dduddudduddu" {
		t.Errorf("the strokes are %s", got)
	}
}

// Hands are offered, taken as one edit, and a turn the same.
func TestOffersAreTaken(t *testing.T) {
	c := newClient(t, testline.Read(t, "A natural minor", "6:5 7 8 5:5 7 8 4:5 7 9 3:5 7 9"))
	path := fmt.Sprintf("/licks/%d", c.id)
	_, body := c.get(path + "/hands")
	if n := strings.Count(body, "data-take="); n < 2 || !strings.Contains(body, "Recommended") {
		t.Fatalf("%d offers", n)
	}
	second := regexp.MustCompile(`data-take="(\w+)"`).FindAllStringSubmatch(body, -1)[1][1]
	if res, body := c.edit("take", second); res.StatusCode != 200 {
		t.Fatalf("%d %s", res.StatusCode, body)
	}
	e, _ := c.store.Get(context.Background(), c.id)
	for i, n := range e.Lick.Notes {
		if n.Finger == lick.NoFinger || n.Stroke == "" {
			t.Fatalf("note %d is not decided: %+v", i+1, n)
		}
	}
	first := e.Lick.Notes[0].Place()
	if res, _ := c.edit("turn", "backwards"); res.StatusCode != 200 {
		t.Fatal(res.StatusCode)
	}
	e, _ = c.store.Get(context.Background(), c.id)
	if got := e.Lick.Notes[len(e.Lick.Notes)-1].Place(); got != first {
		t.Errorf("backwards ends on %v, not on %v", got, first)
	}
	// Another tail from the third note.
	_, body = c.get(path + "/ways?value=tail&note=3")
	if !strings.Contains(body, "Walk down to the root") || !strings.Contains(body, `data-useturn="tail:3:1"`) {
		t.Errorf("no other tail is offered: %s", body[:min(300, len(body))])
	}
	if res, _ := c.edit("turn", "tail:3:1"); res.StatusCode != 200 {
		t.Error(res.StatusCode)
	}
	if e, _ = c.store.Get(context.Background(), c.id); e.Lick.Pitch(len(e.Lick.Notes)-1).Class() != 9 {
		t.Error("the tail does not end on A")
	}
	if res, _ := c.edit("turn", "tail:3:9"); res.StatusCode != 422 {
		t.Error("a tail that is not there is taken")
	}
	for _, bad := range []string{"99", "-1", "x"} {
		if res, _ := c.edit("take", bad, "way", "economy"); res.StatusCode != 422 {
			t.Errorf("take %s: %d", bad, res.StatusCode)
		}
	}
	_, body = c.get(path + "/recipe")
	if !strings.Contains(body, "--cell") && !strings.Contains(body, "twice") {
		t.Errorf("its recipe: %s", body)
	}
}

// A lick begun on Tones lies on the player's own strings, the seventh too.
func TestBeginOnSevenStrings(t *testing.T) {
	c := newClient(t, boxLine(t, 4))
	seven := url.Values{
		"tuning": {"E4 B3 G3 D3 A2 E2 B1"},
		"gauges": {"10 13 17 26w 36w 46w 60w"},
		"scale":  {"648"},
		"frets":  {"24"},
		"size":   {"medium"},
		"way":    {"alternate"},
		"angle":  {"either"},
		"boxes":  {"minor"},
		"strict": {"usual"},
	}
	if res, body := c.post("/player", seven); res.StatusCode != 200 {
		t.Fatalf("%d %s", res.StatusCode, body)
	}
	form := url.Values{"tonic": {"B"}, "scale": {"natural minor"}, "layout": {"3nps"}, "at": {"7:12"}}
	res, body := c.post("/tones/lick", form)
	if res.StatusCode != 200 {
		t.Fatalf("%d %s", res.StatusCode, body)
	}
	rows, err := c.store.List(t.Context(), store.Query{Limit: 1})
	if err != nil || len(rows) != 1 {
		t.Fatal(rows, err)
	}
	e, err := c.store.Get(t.Context(), rows[0].ID)
	if err != nil || len(e.Lick.Tuning) != 7 || len(e.Lick.Notes) != 1 || e.Lick.Notes[0].String != 7 {
		t.Errorf("%+v %v", e.Lick, err)
	}
}

// The player's settings change every verdict, are refused in words, and go back.
func TestPlayerSettings(t *testing.T) {
	c := newClient(t, boxLine(t, 12))
	usual := url.Values{
		"tuning": {"E4 B3 G3 D3 A2 E2"},
		"gauges": {"10 13 17 26w 36w 46w"},
		"scale":  {"648"},
		"frets":  {"22"},
		"size":   {"medium"},
		"way":    {"alternate"},
		"angle":  {"either"},
		"boxes":  {"minor"},
		"strict": {"usual"},
	}
	base := func() uint {
		x, err := c.store.Settings(t.Context(), 1)
		if err != nil {
			t.Fatal(err)
		}
		return x.Revision
	}
	with := func(name, value string) url.Values {
		v := url.Values{}
		for k, x := range usual {
			v[k] = x
		}
		v.Set(name, value)
		v.Set("base", fmt.Sprint(base()))
		return v
	}
	res, body := c.post("/player", with("sixteenths", "90"))
	if res.StatusCode != 200 || !strings.Contains(body, `class="was"`) {
		t.Fatalf("%d: no lick is judged anew", res.StatusCode)
	}
	if _, page := c.get("/player"); !strings.Contains(page, `name="sixteenths" inputmode="decimal" value="90"`) {
		t.Error("the measurement is not kept")
	}
	kept := base()
	for _, bad := range [][2]string{{"scale", "tall"}, {"frets", "2"}, {"frets", "21.5"}, {"gauges", "10"}, {"tuning",
		"E4 E4"}, {"size", "giant"}, {"hold_from", "x"}, {"sixteenths", "-1"}, {"angle", "sideways"}} {
		res, body := c.post("/player", with(bad[0], bad[1]))
		if res.StatusCode != 422 || !strings.Contains(body, "notice") {
			t.Errorf("%s %q: %d", bad[0], bad[1], res.StatusCode)
		}
	}
	if base() != kept {
		before, _ := c.store.Settings(context.Background(), 1)
		t.Errorf("refusals left %s", before.Data)
	}
	if res, _ := c.post("/player/undo", url.Values{"base": {fmt.Sprint(kept)}}); res.StatusCode != 200 {
		t.Errorf("undo: %d", res.StatusCode)
	}
	if res, _ := c.post("/player/undo", url.Values{"base": {"0"}}); res.StatusCode != 409 {
		t.Errorf("undo of nothing: %d", res.StatusCode)
	}
	c.post("/player", with("left", "true"))
	if _, page := c.get("/player"); !strings.Contains(page, "checked") {
		t.Error("left-handed is not kept")
	}
	c.post("/player/reset", url.Values{})
	if _, page := c.get("/player"); strings.Contains(page, "checked") {
		t.Error("the defaults are not back")
	}
}
