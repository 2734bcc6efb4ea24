package web

import (
	"bytes"
	"fmt"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"ornamen/core/lick"
	"ornamen/core/practice"
	"ornamen/core/sound"
	"ornamen/internal/practising"
)

// The stand takes rounds one by one, asks which note was missed, takes the last one back, stops
// when it hurts; the log is shown, goes out and comes back; the player's own numbers are taken.
func TestPracticeScreen(t *testing.T) {
	c := newClient(t, boxLine(t, 16))
	if _, body := c.get("/practice"); !strings.Contains(body, "Warm-up: Box") || !strings.Contains(body,
		"stop and rest") {
		t.Error("there is no plan for today")
	}
	say := func(what string, more ...string) (int, string) {
		_, line, err := practising.LastLine(t.Context(), c.store, 1) // which the page would show
		if err != nil {
			t.Fatal(err)
		}
		q := url.Values{"do": {what}, "line": {fmt.Sprint(line)}, "lick": {fmt.Sprint(c.id)}, "part": {""}, "tempo": {"60"},
			"minutes": {"30"}, "seconds": {"30"}}
		for k := 0; k+1 < len(more); k += 2 {
			q.Set(more[k], more[k+1])
		}
		res, body := c.post("/practice", q)
		return res.StatusCode, body
	}
	log := func() []practice.Entry {
		l, err := practising.Log(t.Context(), c.store, 1)
		if err != nil {
			t.Fatal(err)
		}
		return l
	}
	if status, body := say("clean"); status != 200 || !strings.Contains(body, "Written: clean at 60") {
		t.Errorf("%d %.200s", status, body)
	}
	if status, body := say("miss"); status != 200 || !strings.Contains(body, "Which note?") {
		t.Errorf("%d, and no note is asked for", status)
	}
	say("note", "note", "7")
	if l := log(); len(l) != 2 || l[0].Clean != 1 || l[1].Missed != 1 || l[1].Note != 7 || l[1].Minutes != 0.5 ||
		l[0].Title != "Box" ||
		l[0].Picking <= 0 || l[0].Fretting <= 0 {
		t.Errorf("%+v", l)
	}
	_, missed, _ := practising.LastLine(t.Context(), c.store, 1)
	if _, body := say("undo"); !strings.Contains(body, "Put back what was taken back") {
		t.Error("what was taken back cannot be put back")
	}
	if l := log(); len(l) != 1 {
		t.Errorf("the miss is still there: %+v", l)
	}
	// Another tab takes back what it has shown, and not the line before it.
	if status, _ := say("undo", "line", fmt.Sprint(missed)); status != 409 || len(log()) != 1 {
		t.Errorf("taken back twice: %d, %+v", status, log())
	}
	if status, _ := say("redo", "line", fmt.Sprint(missed)); status != 200 || len(log()) != 2 || log()[1].Note != 7 {
		t.Errorf("put back: %d, %+v", status, log())
	}
	say("undo")
	for _, bad := range [][]string{{"dance"}, {"clean", "part", "none"}, {"clean", "tempo", "5000"}, {"clean",
		"tempo", "fast"}, {"clean", "lick", "99"}} {
		status, body := say(bad[0], bad[1:]...)
		if status < 400 || status >= 500 || strings.Contains(body, "went wrong") {
			t.Errorf("%v: %d %.200s", bad, status, body)
		}
	}
	if l := log(); len(l) != 1 {
		t.Errorf("a mistake is in the log: %+v", l)
	}
	if _, body := say("hurts"); !strings.Contains(body, "Stop here and rest.") || !strings.Contains(body, "doctor") {
		t.Error("nothing says to stop")
	}
	if _, body := say("well"); strings.Contains(body, "Stop here and rest.") {
		t.Error("it is well, and it still says to stop")
	}
	_, csv := c.get("/practice/log.csv")
	if back, err := practice.ReadCSV(strings.NewReader(csv)); err != nil || len(back) != 3 {
		t.Errorf("%v %s", err, csv)
	}
	if _, body := c.get("/practice/log"); !strings.Contains(body, "Your numbers") || !strings.Contains(body,
		"1 of 1 rounds clean") {
		t.Error("the log is not shown")
	}
	// Bends by ear: the simulated guitar, and a recording, which is its sound as a WAV file.
	bent := boxLine(t, 8)
	bent.Notes[0].Bend = &lick.Bend{Semitones: 2, Shape: lick.BendUp}
	e, err := c.store.Add(t.Context(), bent, "made")
	if err != nil {
		t.Fatal(err)
	}
	send := func(path string, body []byte) (int, string) {
		req, err := http.NewRequest("POST", c.url+path, bytes.NewReader(body))
		if err != nil {
			t.Fatal(err)
		}
		req.Header.Set("Origin", c.url)
		req.Header.Set("HX-Request", "true")
		res, text := c.do(req)
		return res.StatusCode, text
	}
	bend := func(query string, body []byte) (int, string) {
		return send(fmt.Sprintf("/practice/bend?lick=%d&%s", e.ID, query), body)
	}
	if status, body := bend("note=1&simulate=-30", nil); status != 200 || !strings.Contains(body, "Flat by") ||
		!strings.Contains(body, "class=\"course\"") {
		t.Errorf("%d %.300s", status, body)
	}
	// A bend that is not in the line but that its tones offer.
	if status, body := bend("note=2:8^2&simulate=40", nil); status != 200 || !strings.Contains(body, "Sharp by") {
		t.Errorf("%d %.300s", status, body)
	}
	var wav bytes.Buffer
	tuned := bent.Clone()
	tuned.Notes, tuned.Tempo = tuned.Notes[:1], 60
	tuned.Notes[0].Len = lick.NewTime(1, 2)
	guitar := c.app.site.Players()[0].Engine.Player.Guitar
	if err := sound.WriteWAV(t.Context(), &wav, sound.NewRenderer(guitar, tuned, sound.Options{})); err != nil {
		t.Fatal(err)
	}
	if status, body := bend("note=1", wav.Bytes()); status != 200 || !strings.Contains(body, "In tune.") {
		t.Errorf("%d %.300s", status, body)
	}
	for _, bad := range []string{"note=2&simulate=0", "note=99", "note=x", "note=1&simulate=9000", "note=1",
		"note=2:99^2&simulate=0", "note=2:8^x&simulate=0", "note=^&simulate=0", "note=9:5^2&simulate=0",
		"note=2:0^2&simulate=0", "note=2:8^99&simulate=0", "note=2:8^NaN&simulate=0"} {
		if status, body := bend(bad, nil); status < 400 || status >= 500 || strings.Contains(body, "went wrong") {
			t.Errorf("%s: %d %.200s", bad, status, body)
		}
	}
	// A played line: the simulated guitar as written, and with a note left out.
	line := func(query string) (int, string) {
		return send(fmt.Sprintf("/practice/line?lick=%d&%s", c.id, query), nil)
	}
	if status, body := line("part=&tempo=50&simulate=0"); status != 200 ||
		!strings.Contains(body, "Every note is there") {
		t.Errorf("%d %.300s", status, body)
	}
	if status, body := line("part=&tempo=50&simulate=5"); status != 200 || !strings.Contains(body, "Note 5 missing") {
		t.Errorf("%d %.300s", status, body)
	}
	for _, bad := range []string{"part=&tempo=50&simulate=99", "part=none&tempo=50&simulate=0",
		"part=&tempo=300&simulate=0", "part=&tempo=x", "part=&tempo=50"} {
		if status, body := line(bad); status < 400 || status >= 500 || strings.Contains(body, "went wrong") {
			t.Errorf("%s: %d %.200s", bad, status, body)
		}
	}
	if _, body := c.get(fmt.Sprintf("/practice?lick=%d", e.ID)); !strings.Contains(body, "1 of 2 in tune") {
		t.Error("the bends are not in the log")
	}
	if err := c.store.Delete(t.Context(), e.ID); err != nil {
		t.Fatal(err)
	}
	// Rounds of each hand alone, all clean far above the ceiling: this player is faster than the
	// model's.
	var fast []practice.Entry
	for k := range 240 {
		e := log()[0]
		e.Tempo, e.Clean, e.Fretting = 1.2*e.Picking, 1, 0
		if k%2 == 0 {
			e = log()[0]
			e.Tempo, e.Clean, e.Picking = 1.2*e.Fretting, 1, 0
		}
		fast = append(fast, e)
	}
	if _, err := practising.Add(t.Context(), c.store, 1, fast...); err != nil {
		t.Fatal(err)
	}
	before := c.app.site.Players()[0].Engine.Player
	if res, body := c.post("/practice/numbers", nil); res.StatusCode != 200 || !strings.Contains(body,
		"Every line is judged by them") {
		t.Errorf("%d", res.StatusCode)
	}
	after := c.app.site.Players()[0].Engine.Player
	if !(after.Hand.Speed > before.Hand.Speed && after.Pick.Speed > before.Pick.Speed) {
		t.Errorf("speeds %g, %g, before %g, %g", after.Hand.Speed, after.Pick.Speed, before.Hand.Speed,
			before.Pick.Speed)
	}
	// A part backwards sounds, and one that is no part is refused.
	if res, body := c.get(fmt.Sprintf("/licks/%d/sound.wav?back=true&from=1&upto=4", c.id)); res.StatusCode != 200 ||
		!strings.HasPrefix(body, "RIFF") {
		t.Errorf("%d %.40q", res.StatusCode, body)
	}
	if res, _ := c.get(fmt.Sprintf("/licks/%d/sound.wav?back=true&from=3&upto=99", c.id)); res.StatusCode < 400 ||
		res.StatusCode >= 500 {
		t.Errorf("a part past the end: %d", res.StatusCode)
	}
	// The log outlives the lick.
	if err := c.store.Delete(t.Context(), c.id); err != nil {
		t.Fatal(err)
	}
	if res, body := c.get("/practice/log"); res.StatusCode != 200 || !strings.Contains(body, "Box") {
		t.Errorf("%d", res.StatusCode)
	}
	if res, _ := c.get("/practice?lick=" + fmt.Sprint(c.id)); res.StatusCode != 200 {
		t.Errorf("a stand without its lick: %d", res.StatusCode)
	}
}
