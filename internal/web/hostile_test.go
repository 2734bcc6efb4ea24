package web

import (
	"bytes"
	"context"
	"encoding/binary"
	"fmt"
	"math/rand/v2"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"golang.org/x/text/encoding/unicode"

	"ornamen/core/hear"
	"ornamen/core/lick"
	"ornamen/core/practice"
	"ornamen/internal/practising"
)

// parserWords are words of parsers, databases and of Go that no player should read.
var parserWords = []string{"json:", "csv:", "sql", "SQL", "strconv", "invalid syntax", "parse error",
	"unmarshal", "EOF", "panic", "runtime", "uint", "went wrong"}

// plainlyRefused says what is wrong with an answer that should be one plain sentence of refusal.
func plainlyRefused(t *testing.T, what string, status int, body string) {
	t.Helper()
	if status != http.StatusUnprocessableEntity {
		t.Errorf("%s: status %d", what, status)
	}
	text := body
	if i := strings.Index(body, `class="notice`); i >= 0 {
		text = body[i:]
	}
	for _, w := range parserWords {
		if i := strings.Index(text, w); i >= 0 {
			t.Errorf("%s speaks of %q: %.120s", what, w, text[max(0, i-60):])
		}
	}
}

// A log is taken whole or not at all, whatever is wrong with it, and Practice opens after each.
func TestHostileLogs(t *testing.T) {
	c := newClient(t, boxLine(t, 8))
	entry := func(fields string) string {
		return `[{"time":"2026-11-01T10:00:00Z","lick":1,"tempo":60,"clean":1},` +
			`{"time":"2026-11-02T10:00:00Z","tempo":60,"clean":1,` + fields + `}]`
	}
	head := "time,lick,tempo,clean,missed\n2026-01-01T00:00:00Z,1,80,3,0\n"
	logs := map[string]string{
		"a.json": entry(`"lick":18446744073709551615`), "b.json": entry(`"lick":9223372036854775808`),
		"c.json": entry(`"lick":-1`), "d.json": entry(`"lick":1,"revision":99999999999`), "e.json": entry(`"lick":1.5`),
		"f.json": entry(`"lick":1,"minutes":1e400`), "g.json": entry(`"lick":1,"time":"yesterday"`),
		"h.json": entry(`"lick":1`) + "]", "i.json": entry(`"lick":1`)[:80], "j.json": `{"entries":[]}`, "k.json": "",
		"l.json": "[" + strings.Repeat("{},", 1_000_000) + "{}]", "m.json": entry(`"lick":1,"comfort":"numb"`),
		"n.json": entry(`"lick":1,"time":"0000-01-01T00:00:00Z"`), "o.json": "null", "p.json": "[1]",
		"a.csv": head + "2026-01-01T00:00:00Z,\"1,80,3,0\n", "b.csv": head + "2026-01-01T00:00:00Z,1\"2,80,3,0\n",
		"c.csv": head + "2026-01-01T00:00:00Z,1,80\n", "d.csv": head + "2026-01-01T00:00:00Z,1,NaN,3,0\n",
		"e.csv": head + "2026-01-01T00:00:00Z,99999999999,80,3,0\n", "f.csv": head + "1 May,1,80,3,0\n", "g.csv": "\"",
		"h.csv": head + "2026-01-01T00:00:00Z,-1,80,3,0\n", "i.csv": head + "2026-01-01T00:00:00Z,1,80,3.5,0\n",
		"j.csv": head + strings.Repeat("2026-01-01T00:00:00Z,1,80,3,0\n", 200_000),
	}
	for name, text := range logs {
		res, body := c.uploadTo("/practice/log/import", name, []byte(text))
		plainlyRefused(t, name, res.StatusCode, body)
	}
	for _, page := range []string{"/practice", "/practice/log", "/practice/log.json", "/practice/log.csv"} {
		if res, body := c.get(page); res.StatusCode != http.StatusOK {
			t.Errorf("%s: %s %.200s", page, res.Status, body)
		}
	}
	if log, err := practising.Log(t.Context(), c.store, 1); err != nil || len(log) != 0 {
		t.Errorf("%d entries of refused logs are kept, %v", len(log), err)
	}
}

// A log is read in the encodings and with the ends of lines that spreadsheets write; its evenings
// stay evenings.
func TestLogEncodings(t *testing.T) {
	text := "time,lick,part,tempo,clean,missed\n2026-11-20T20:33:00-08:00,1,\"strings 4 and 3, 1 to 4\",80,3,0\n"
	utf16, err := unicode.UTF16(unicode.LittleEndian, unicode.UseBOM).NewEncoder().String(text)
	if err != nil {
		t.Fatal(err)
	}
	bare, err := unicode.UTF16(unicode.BigEndian, unicode.IgnoreBOM).NewEncoder().String(text)
	if err != nil {
		t.Fatal(err)
	}
	for name, data := range map[string]string{"a mark": "\ufeff" + text, "UTF-16": utf16, "UTF-16 without a mark": bare,
		"CR": strings.ReplaceAll(text, "\n", "\r"), "CR LF": strings.ReplaceAll(text, "\n", "\r\n")} {
		c := newClient(t, boxLine(t, 8))
		if res, body := c.uploadTo("/practice/log/import", "log.csv", []byte(data)); res.StatusCode != http.StatusOK {
			t.Errorf("%s: %s %.200s", name, res.Status, body)
			continue
		}
		log, err := practising.Log(t.Context(), c.store, 1)
		if err != nil || len(log) != 1 || log[0].Part != "strings 4 and 3, 1 to 4" || log[0].Title != "Box" ||
			log[0].Time.Format("2 15:04") != "20 20:33" {
			t.Errorf("%s: %+v %v", name, log, err)
		}
	}
}

// Numbers that are none are refused in every form; nothing is written.
func TestNoNumbers(t *testing.T) {
	c := newClient(t, boxLine(t, 8))
	for _, bad := range []string{"NaN", "Inf", "-Inf", "1e999", "x"} {
		for _, field := range []string{"seconds", "tempo"} {
			q := url.Values{"do": {"clean"}, "lick": {fmt.Sprint(c.id)}, "tempo": {"60"}, "seconds": {"30"}}
			q.Set(field, bad)
			res, body := c.post("/practice", q)
			plainlyRefused(t, field+" "+bad, res.StatusCode, body)
		}
	}
	if log, err := practising.Log(t.Context(), c.store, 1); err != nil || len(log) != 0 {
		t.Errorf("%+v %v", log, err)
	}
}

// Two notes that lie years apart make no sound, and no work: they are refused, alone they are heard.
func TestEndlessSound(t *testing.T) {
	l := boxLine(t, 2)
	l.Notes[1].At = lick.NewTime(999_998, 1)
	c := newClient(t, l)
	for _, query := range []string{"", "?click=true&band=true", "?rounds=4"} {
		res, body := c.get(fmt.Sprintf("/licks/%d/sound.wav%s", c.id, query))
		plainlyRefused(t, "sound"+query, res.StatusCode, body)
		res, body = c.get(fmt.Sprintf("/licks/%d/sounding%s", c.id, query))
		plainlyRefused(t, "times"+query, res.StatusCode, body)
	}
	if res, body := c.get(fmt.Sprintf("/licks/%d/sound.wav?from=2&upto=2&click=true", c.id)); res.StatusCode != 200 ||
		len(body) < 10_000 || len(body) > 1_000_000 {
		t.Errorf("the second note alone: %s, %d bytes", res.Status, len(body))
	}
}

// recording is a WAV file of some seconds of noise.
func recording(rate, seconds int) []byte {
	rng := rand.New(rand.NewPCG(1, 2))
	n := rate * seconds
	b := []byte("RIFF\x00\x00\x00\x00WAVEfmt \x10\x00\x00\x00\x01\x00\x01\x00")
	b = binary.LittleEndian.AppendUint32(b, uint32(rate))
	b = binary.LittleEndian.AppendUint32(b, uint32(2*rate))
	b = append(b, 2, 0, 16, 0)
	b = append(b, "data"...)
	b = binary.LittleEndian.AppendUint32(b, uint32(2*n))
	for range n {
		b = binary.LittleEndian.AppendUint16(b, uint16(rng.IntN(1<<16)))
	}
	return b
}

// Noise at any rate of recordings is refused in a sentence, and a page that goes ends the
// listening.
func TestHostileRecordings(t *testing.T) {
	l := boxLine(t, 2)
	l.Notes[0].Bend = &lick.Bend{Semitones: 2, Shape: lick.BendUp}
	c := newClient(t, l)
	path := fmt.Sprintf("/practice/bend?lick=%d&note=1", c.id)
	for _, rate := range []int{44_100, 96_000, 192_000} {
		res, body := c.send(path, recording(rate, 10))
		plainlyRefused(t, fmt.Sprint(rate), res.StatusCode, body)
	}
	for _, data := range [][]byte{nil, []byte("RIFF"), recording(7000, 1), recording(4_000_000, 0)} {
		res, body := c.send(path, data)
		plainlyRefused(t, fmt.Sprintf("%d bytes", len(data)), res.StatusCode, body)
	}
	gone, leave := context.WithCancel(t.Context())
	leave()
	if _, err := hear.Bend(gone, make([]float32, 1<<20), 48_000, 69); err != context.Canceled {
		t.Errorf("a page has gone, and the answer is %v", err)
	}
}

// send posts bytes as a page of our own does.
func (c *client) send(path string, data []byte) (*http.Response, string) {
	c.t.Helper()
	req, err := http.NewRequest("POST", c.url+path, bytes.NewReader(data))
	if err != nil {
		c.t.Fatal(err)
	}
	req.Header.Set("Origin", c.url)
	req.Header.Set("HX-Request", "true")
	return c.do(req)
}

// A round late in the evening, west of Greenwich, belongs to that evening: on the stand, in the
// plan and in the log.
func TestEveningInTheWest(t *testing.T) {
	west := inLosAngeles(t)
	c := newClientAt(t, boxLine(t, 8), west)
	q := url.Values{"do": {"clean"}, "lick": {fmt.Sprint(c.id)}, "part": {""}, "tempo": {"60"}, "seconds": {"120"},
		"kind": {"warm-up"}}
	_, body := c.post("/practice", q)
	if !strings.Contains(body, "2:00 today") && !strings.Contains(body, "2:00 of ") {
		t.Errorf("the stand does not know of the round: %.300s", body)
	}
	if !strings.Contains(body, ", played") {
		t.Error("the plan does not mark it")
	}
	if _, body := c.get("/practice"); !strings.Contains(body, "<h1>Saturday</h1>") {
		t.Errorf("the day is another: %.200s", body)
	}
	if _, body := c.get("/practice/log"); !strings.Contains(body, "28 Nov") || strings.Contains(body, "29 Nov") {
		t.Error("the log has another day")
	}
	log, err := practising.Log(t.Context(), c.store, 1)
	if err != nil || len(log) != 1 || practice.DateOf(log[0].Time) != practice.DateOf(west()) {
		t.Errorf("%+v %v", log, err)
	}
}
