package tones_test

import (
	"testing"

	"ornamen/core/testline"
	"ornamen/internal/web/webtest"
)

// Tones shows what was asked, refuses what is none with what is near, and makes a lick of it.
func TestTones(t *testing.T) {
	c := webtest.New(t, testline.Read(t, "A minor pentatonic", "3:5 7 2:5 8"))
	status, body := c.Get("/tones?tonic=A&scale=minor+pentatonic&added=9&at=6:5")
	c.Says("a box", status, body, 200, "A minor pentatonic", "box 1 from the minor root")
	status, body = c.Get("/tones?tonic=H&scale=minor+pentatonic")
	c.Says("no tonic", status, body, 422, "H")
	status, body = c.Get("/tones?tonic=A&scale=dorain")
	c.Says("a scale misspelt", status, body, 422, "dorian")
	status, body = c.Get("/lists/scales?typed=jazz+minor")
	c.Says("a list", status, body, 200, "melodic minor")
	status, body = c.Get("/lists/keys?typed=Dm+dorian")
	c.Says("a list of keys", status, body, 200, "D dorian")
	status, body = c.Get("/lists/dances")
	c.Says("a list of nothing", status, body, 404)
}

// Tones that are saved by name are there until they are forgotten.
func TestSaved(t *testing.T) {
	c := webtest.New(t)
	status, body := c.Post("/tones/saved", "name", "Barn", "tonic", "A", "scale", "blues")
	c.Says("saved", status, body, 200)
	list, err := c.Store.Palettes(t.Context())
	if err != nil || len(list) != 1 || list[0].Name != "Barn" || list[0].Scale != "blues" {
		t.Fatalf("%+v %v", list, err)
	}
	status, body = c.Post("/tones/saved/1/forget")
	c.Says("forgotten", status, body, 200, "!Barn")
	status, body = c.Post("/tones/saved/1/forget")
	c.Says("forgotten twice", status, body, 404)
}
