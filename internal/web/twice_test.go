package web

import (
	"bytes"
	"context"
	"fmt"
	"net/url"
	"testing"

	"ornamen/core/practice"
	"ornamen/internal/archive"
	"ornamen/internal/practising"
	"ornamen/internal/store"
)

// holds counts what a notebook holds: licks, versions, rounds of all players, sets and their versions.
func (c *client) holds() string {
	c.t.Helper()
	ctx := context.Background()
	ids, err := c.store.Ids(ctx)
	if err != nil {
		c.t.Fatal(err)
	}
	versions, rounds := 0, 0
	for _, id := range ids {
		list, err := c.store.Versions(ctx, id, 1000)
		if err != nil {
			c.t.Fatal(err)
		}
		versions += len(list)
	}
	players, err := c.store.AllPlayers(ctx)
	if err != nil {
		c.t.Fatal(err)
	}
	for _, p := range players {
		log, err := c.store.Log(ctx, p.ID)
		if err != nil {
			c.t.Fatal(err)
		}
		rounds += len(log)
	}
	sets, err := c.store.Sets(ctx)
	if err != nil {
		c.t.Fatal(err)
	}
	return fmt.Sprintf(
		"%d licks, %d versions, %d players, %d rounds, sets %+v",
		len(ids),
		versions,
		len(players),
		rounds,
		sets,
	)
}

// What is handed in by a page once more is there once, whatever it is: a notebook, a set, a set with its page, a report
// and logs, on Import and on the log's own page; in the notebook that it is from and in a new one.
func TestHandedInTwiceByPages(t *testing.T) {
	home := newClient(t, boxLine(t, 8))
	for k := range 5 {
		x := practice.Entry{Lick: home.id, Title: "Box", Tempo: 60 + float64(k)/3, Clean: 1, Time: evening()}
		if _, err := practising.Add(t.Context(), home.store, 1, x, x); err != nil {
			t.Fatal(err)
		}
	}
	home.post("/sets", url.Values{"name": {"Week"}, "lick": {fmt.Sprint(home.id)}})
	var whole bytes.Buffer
	if _, err := archive.Write(t.Context(), &whole, home.store); err != nil {
		t.Fatal(err)
	}
	fetched := func(path string) []byte {
		t.Helper()
		res, body := home.get(path)
		if res.StatusCode != 200 {
			t.Fatalf("%s: %d", path, res.StatusCode)
		}
		return []byte(body)
	}
	set, withPage := fetched("/sets/1/set.zip"), fetched("/sets/1/set.zip?page=true")
	report := fetched("/practice/report.json")
	csv, list := fetched("/practice/log.csv"), fetched("/practice/log.json")
	imports := func(name string, data []byte) func(c *client) {
		return func(c *client) {
			t.Helper()
			res, body := c.upload(name, data)
			if res.StatusCode >= 400 {
				t.Fatalf("%s: %d %.300s", name, res.StatusCode, body)
			}
			if at := res.Request.URL.Path; len(at) > 8 && at[:8] == "/import/" { // the one question
				if res, body := c.post(at, url.Values{"who": {store.FirstName}}); res.StatusCode >= 400 {
					t.Fatalf("%s: %d %.300s", name, res.StatusCode, body)
				}
			}
		}
	}
	reads := func(name string, data []byte) func(c *client) {
		return func(c *client) {
			t.Helper()
			if res, body := c.uploadTo("/practice/log/import", name, data); res.StatusCode >= 400 {
				t.Fatalf("%s: %d %.300s", name, res.StatusCode, body)
			}
		}
	}
	for name, hand := range map[string]func(*client){
		"a notebook":             imports("whole.zip", whole.Bytes()),
		"a set":                  imports("set.zip", set),
		"a set with its page":    imports("set.zip", withPage),
		"a report on Import":     imports("report.json", report),
		"a log on Import":        imports("log.csv", csv),
		"a JSON log on Import":   imports("log.json", list),
		"a log on its page":      reads("log.csv", csv),
		"a JSON log on its page": reads("log.json", list),
	} {
		for where, c := range map[string]*client{"at home": home, "elsewhere": newClient(t, boxLine(t, 4))} {
			hand(c)
			before := c.holds()
			hand(c)
			if now := c.holds(); now != before {
				t.Errorf("%s %s, handed in once more:\n%s\nbecame\n%s", name, where, before, now)
			}
		}
	}
}
