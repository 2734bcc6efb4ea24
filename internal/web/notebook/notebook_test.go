package notebook_test

import (
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/testline"
	"ornamen/internal/web/webtest"
)

// line is a lick of that title with a tag.
func line(t *testing.T, title, tag string) lick.Lick {
	t.Helper()
	l := testline.Read(t, "A minor pentatonic", "3:5 7 2:5 8")
	l.Title, l.Tags = title, []string{tag}
	return l
}

// The notebook finds by words and tags, sorts, and keeps what was chosen in its addresses.
func TestFindingAndSorting(t *testing.T) {
	c := webtest.New(t, line(t, "Weir", "barn"), line(t, "Mill", "barn"), line(t, "Ferry", "river"))
	status, body := c.Get("/")
	c.Says("all", status, body, 200, "Weir", "Mill", "Ferry", "3 licks")
	status, body = c.Get("/?find=mil")
	c.Says("the middle of a word", status, body, 200, "Mill", "!>Weir<")
	status, body = c.Get("/?tag=barn&sort=title")
	c.Says("a tag", status, body, 200, "!>Ferry<", "/?sort=title")
	if strings.Index(body, ">Mill<") > strings.Index(body, ">Weir<") {
		t.Error("titles are not in order")
	}
	status, body = c.Get("/?find=nothing+of+that+kind")
	c.Says("nothing found", status, body, 200, "!>Weir<")
	status, body = c.Get("/?sort=sideways")
	c.Says("an order that is none", status, body, 200, "Weir")
}

// A lick that is deleted is gone from the list, and one press brings it back; a copy has another name.
func TestDeleteCopyRestore(t *testing.T) {
	c := webtest.New(t, line(t, "Weir", "barn"))
	status, body := c.Post("/licks/1/delete")
	c.Says("delete", status, body, 200, "/licks/1/restore")
	status, body = c.Get("/licks/1")
	c.Says("what is gone", status, body, 404, "not in the notebook")
	status, body = c.Post("/licks/1/delete")
	c.Says("delete twice", status, body, 404)
	status, body = c.Post("/licks/1/restore")
	c.Says("bring back", status, body, 200, "Weir")
	status, body = c.Post("/licks/1/copy")
	c.Says("copy", status, body, 200)
	if rows, err := c.Store.Ids(t.Context()); err != nil || len(rows) != 2 {
		t.Errorf("%v %v", rows, err)
	}
	status, body = c.Post("/licks/99/copy")
	c.Says("a copy of nothing", status, body, 404)
}
