package webtest

import (
	"bytes"
	"context"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"testing"
	"time"
	"unicode/utf8"

	"golang.org/x/net/html"

	"ornamen/internal/demo"
	"ornamen/internal/store"
)

// update writes the answers anew: go test ./internal/web/... -update. The difference is read before it is committed.
var update = flag.Bool("update", false, "record the answers of the screens anew")

// Ask is one request of a recorded session.
type Ask struct {
	Name string   // of the record
	Path string   // asked for, or where a form is sent
	Form []string // names and values in turn; nil for a GET
	File []string // the name and the content of a file that is sent instead; no content is the answer before
	Bare bool     // as a fragment of a page that is there already
	Then string   // the page that is recorded instead of a form's answer, once all of it is worked out
}

// demoFile is the demo notebook as a file, made once.
var demoFile = sync.OnceValues(func() ([]byte, error) {
	dir, err := os.MkdirTemp("", "ornamen-webtest-")
	if err != nil {
		return nil, err
	}
	defer os.RemoveAll(dir)
	s, err := store.Open(filepath.Join(dir, "demo.db"), Evening)
	if err != nil {
		return nil, err
	}
	defer s.Close()
	if err := demo.Fill(context.Background(), s); err != nil {
		return nil, err
	}
	whole := filepath.Join(dir, "whole.db")
	if err := s.Backup(context.Background(), whole); err != nil {
		return nil, err
	}
	return os.ReadFile(whole)
})

// Demo serves the demo notebook.
func Demo(t testing.TB) *Client {
	t.Helper()
	data, err := demoFile()
	if err != nil {
		t.Fatal(err)
	}
	path := filepath.Join(t.TempDir(), "demo.db")
	if err := os.WriteFile(path, data, 0o600); err != nil {
		t.Fatal(err)
	}
	s, err := store.Open(path, Evening)
	if err != nil {
		t.Fatal(err)
	}
	return serve(t, s)
}

// Recorded asks in turn and holds each answer against its record in testdata/recorded: what a page says, where its
// links and forms lead and what its fields hold, without how it looks. So a line of a view or handler that goes wrong
// is told by what the player would see.
func (c *Client) Recorded(asks ...Ask) {
	c.T.Helper()
	before := ""
	for _, a := range asks {
		status, body := c.ask(a)
		for range 600 {
			if a.Then == "" || status != 200 {
				break
			}
			if _, body = c.Get(a.Then); !strings.Contains(body, "the rest follows") {
				break
			}
			time.Sleep(50 * time.Millisecond)
		}
		says := spoken(body)
		got := fmt.Sprintf("%d %s\n%s", status, a.Path, since(before, says))
		before = says
		file := filepath.Join("testdata", "recorded", a.Name+".txt")
		if *update {
			err := os.MkdirAll(filepath.Dir(file), 0o755)
			if err == nil {
				err = os.WriteFile(file, []byte(got), 0o644)
			}
			if err != nil {
				c.T.Fatal(err)
			}
			continue
		}
		want, err := os.ReadFile(file)
		if err != nil {
			c.T.Fatalf("%v; record it with -update", err)
		}
		if got != string(want) {
			c.T.Errorf("%s is another than recorded; -update records it anew\n%s", a.Name, firstDifference(got, string(want)))
		}
	}
}

// ask sends one request of a session.
func (c *Client) ask(a Ask) (status int, body string) {
	c.T.Helper()
	c.bare = a.Bare
	defer func() { c.bare = false }()
	switch {
	case a.File != nil:
		content := a.File[1]
		if content == "" {
			content = c.body
		}
		return c.Upload(c.filled(a.Path), a.File[0], content)
	case a.Form == nil:
		return c.Get(c.filled(a.Path))
	}
	form := slices.Clone(a.Form)
	for i := range form {
		form[i] = c.filled(form[i])
	}
	return c.Post(c.filled(a.Path), form...)
}

// named is what stands in a request for what only the notebook knows: {rev 4} for the newest version of lick 4, {who 2}
// for the key of the second player, {settings} for the version of the first one's settings, {set 1} for that of a set,
// {at} for the address where the answer before led to, {first NAME} for the first value of a field that it has.
var named = regexp.MustCompile(`\{(rev|who|settings|set|at|first) ?([\w-]*)\}`)

// filled is a word of a request with what the notebook knows.
func (c *Client) filled(word string) string {
	c.T.Helper()
	return named.ReplaceAllStringFunc(word, func(s string) string {
		ctx := context.Background()
		m := named.FindStringSubmatch(s)
		n, _ := strconv.Atoi(m[2])
		players, err := c.Store.Players(ctx)
		if err != nil {
			c.T.Fatal(err)
		}
		switch m[1] {
		case "at":
			return c.at
		case "first":
			field := regexp.MustCompile(`name="` + m[2] + `"[^>]*value="([^"]*)"`).FindStringSubmatch(c.body)
			if field == nil {
				c.T.Fatalf("the answer before has no field %s", m[2])
			}
			return html.UnescapeString(field[1])
		case "rev":
			e, err := c.Store.Get(ctx, uint(n))
			if err != nil {
				c.T.Fatal(err)
			}
			return fmt.Sprint(e.Revision)
		case "who":
			return players[n-1].Key
		case "set":
			set, err := c.Store.SetOf(ctx, uint(n))
			if err != nil {
				c.T.Fatal(err)
			}
			return fmt.Sprint(set.Revision)
		}
		x, err := c.Store.Settings(ctx, players[0].ID)
		if err != nil {
			c.T.Fatal(err)
		}
		return fmt.Sprint(x.Revision)
	})
}

// since is what a page says that the one before did not, line by line behind a +, and what it says no more, behind a -.
// Pages that have little in common are recorded whole.
func since(before, now string) string {
	had := map[string]int{}
	for line := range strings.Lines(before) {
		had[line]++
	}
	var out strings.Builder
	same := 0
	for line := range strings.Lines(now) {
		if had[line] > 0 {
			had[line]--
			same++
			continue
		}
		out.WriteString("+ " + line)
	}
	if 2*same < strings.Count(now, "\n") {
		return now
	}
	for line := range strings.Lines(before) {
		if had[line] > 0 {
			had[line]--
			out.WriteString("- " + line)
		}
	}
	return out.String()
}

// firstDifference shows the first line that differs, with the two before it.
func firstDifference(got, want string) string {
	a, b := strings.Split(got, "\n"), strings.Split(want, "\n")
	i := 0
	for i < len(a) && i < len(b) && a[i] == b[i] {
		i++
	}
	line := func(s []string) string {
		if i < len(s) {
			return s[i]
		}
		return "(its end)"
	}
	return fmt.Sprintf("line %d after %q\n got: %s\nwant: %s", i+1, a[max(0, i-2):i], line(a), line(b))
}

// telling are the attributes that say what an element does or says; how it looks is not recorded, but for what a
// style or script reads as a state.
var telling = []string{"id", "href", "action", "name", "value", "type", "title", "aria-label", "aria-pressed",
	"aria-current", "aria-selected", "placeholder", "checked", "selected", "disabled", "open", "hidden", "min", "max",
	"step", "formaction", "download", "content"}

// changing are the keys that another run makes otherwise, and the address of another build's files.
var changing = regexp.MustCompile(`\b[0-9a-f]{16}\b|/assets/\w+/`)

// spoken is what a page says: a line for each piece of text, and for each element that is more than a container. What
// is no page stays as it is.
func spoken(body string) string {
	if !utf8.ValidString(body) || strings.Contains(body, "\x00") {
		return "(a file)\n"
	}
	if !strings.Contains(body, "<") || strings.HasPrefix(body, "{") {
		return changing.ReplaceAllString(body, "…")
	}
	if _, page, ok := strings.Cut(body, "<main"); ok {
		body = "<main" + page // what stands on every page is not recorded with each
	}
	var out bytes.Buffer
	tokens := html.NewTokenizer(strings.NewReader(body))
	quiet := "" // the element whose text is for machines
	for {
		switch tokens.Next() {
		case html.ErrorToken:
			return changing.ReplaceAllString(out.String(), "…")
		case html.TextToken:
			if s := strings.Join(strings.Fields(html.UnescapeString(string(tokens.Raw()))), " "); s != "" && quiet == "" {
				fmt.Fprintln(&out, s)
			}
		case html.StartTagToken, html.SelfClosingTagToken:
			t := tokens.Token()
			if t.Data == "script" || t.Data == "style" {
				quiet = t.Data
			}
			var said []string
			for _, a := range t.Attr {
				if slices.Contains(telling, a.Key) || strings.HasPrefix(a.Key, "data-") || strings.HasPrefix(a.Key, "hx-") {
					said = append(said, fmt.Sprintf("%s=%q", a.Key, a.Val))
				}
			}
			if len(said) > 0 {
				fmt.Fprintf(&out, "<%s %s>\n", t.Data, strings.Join(said, " "))
			}
		case html.EndTagToken:
			if name, _ := tokens.TagName(); string(name) == quiet {
				quiet = ""
			}
		}
	}
}

// Until asks for a page until it says a word: what is worked out behind it is there then.
func (c *Client) Until(path, word string) *Client {
	c.T.Helper()
	for range 1200 {
		if _, body := c.Get(path); strings.Contains(body, word) {
			return c
		}
		time.Sleep(50 * time.Millisecond)
	}
	c.T.Fatalf("%s never says %q", path, word)
	return nil
}
