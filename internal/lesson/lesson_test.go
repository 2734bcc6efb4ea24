package lesson

import (
	"archive/zip"
	"bytes"
	"errors"
	"io"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"ornamen/core/judge"
	"ornamen/core/player"
	"ornamen/core/practice"
	"ornamen/core/testline"
	"ornamen/internal/practising"
	"ornamen/internal/refuse"
	"ornamen/internal/store"
)

var now = time.Date(2026, 11, 25, 18, 0, 0, 0, time.UTC)

func notebook(t *testing.T) *store.Store {
	t.Helper()
	s, err := store.Open(filepath.Join(t.TempDir(), "n.db"), func() time.Time { return now })
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { s.Close() })
	return s
}

// filled is a teacher's notebook with a set of two licks, one of them twice.
func filled(t *testing.T) (*store.Store, store.Set) {
	t.Helper()
	s := notebook(t)
	var ids []uint
	for _, title := range []string{"Weir", "Ёlka ☃ / long"} {
		l := testline.Build(t, 90, "3:5 7 2:5 8")
		l.Title = title
		e, err := s.Add(t.Context(), l, "made")
		if err != nil {
			t.Fatal(err)
		}
		ids = append(ids, e.ID)
	}
	x, err := s.SaveSet(
		t.Context(),
		store.Set{Name: "Week 48", Kind: store.Homework, Target: "2026-12-03", Remark: "slowly",
			Items: []store.SetItem{
				{Lick: ids[0], Tempo: 72, Days: store.On(time.Monday), Remark: "sing"},
				{Lick: ids[1]},
				{Lick: ids[0]},
			}}, store.Newest)
	if err != nil {
		t.Fatal(err)
	}
	return s, x
}

func packed(t *testing.T, s *store.Store, x store.Set, page bool) []byte {
	t.Helper()
	var b bytes.Buffer
	if err := Write(t.Context(), &b, s, judge.NewEngine(player.Default()), x, page); err != nil {
		t.Fatal(err)
	}
	return b.Bytes()
}

func take(t *testing.T, s *store.Store, data []byte) (store.Arrived, error) {
	t.Helper()
	return Take(t.Context(), s, bytes.NewReader(data), int64(len(data)))
}

// A set arrives as it was, once; what a student practised comes back into the log of that student alone, once.
func TestThereAndBack(t *testing.T) {
	teacher, x := filled(t)
	juna, err := teacher.AddPlayer(t.Context(), "Juna", 0)
	if err != nil {
		t.Fatal(err)
	}
	data := packed(t, teacher, x, true)
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range z.File {
		r, err := f.Open()
		if err != nil {
			t.Fatal(err)
		}
		text, _ := io.ReadAll(r)
		if f.Name == pageFile && (!bytes.Contains(text, []byte("Week 48")) || !bytes.Contains(text, []byte("slowly"))) {
			t.Error("the page has no head")
		}
		if bytes.Contains(text, []byte(juna.Key)) || bytes.Contains(text, []byte("Juna")) {
			t.Errorf("%s tells of a player", f.Name)
		}
	}
	student := notebook(t)
	got, err := take(t, student, data)
	if err != nil || got.Added != 2 || !got.New {
		t.Fatalf("%+v %v", got, err)
	}
	in := got.Set
	if in.Name != x.Name || in.Target != x.Target || in.Remark != x.Remark || len(in.Items) != 3 ||
		in.Items[0].Tempo != 72 || in.Items[0].Days != x.Items[0].Days || in.Items[0].Remark != "sing" {
		t.Errorf("%+v", in)
	}
	for range 2 {
		if again, err := take(t, student, data); err != nil || !again.Same() {
			t.Errorf("%+v %v", again, err)
		}
	}
	if again, err := take(t, teacher, data); err != nil || !again.Same() {
		t.Errorf("at home: %+v %v", again, err)
	}

	log := []practice.Entry{{Lick: in.Items[0].Lick, Title: "Weir", Tempo: 60, Clean: 1, Minutes: 0.5, Picking: 130,
		Time: now.Add(-time.Hour)}, {Title: "hurts", Comfort: practice.Hurts, Time: now}}
	other, err := student.Add(t.Context(), testline.Build(t, 90, "3:5 7 2:5 8"), "my own")
	if err != nil {
		t.Fatal(err)
	}
	log = append(log, practice.Entry{Lick: other.ID, Title: "my own", Tempo: 60, Clean: 1, Time: now})
	if _, err := practising.Add(t.Context(), student, 1, log...); err != nil {
		t.Fatal(err)
	}
	who, err := student.PlayerNamed(t.Context(), "")
	if err != nil {
		t.Fatal(err)
	}
	var b bytes.Buffer
	if n, err := WriteReport(t.Context(), &b, student, who, &in); err != nil || n != 2 {
		t.Fatalf("%d rounds, %v", n, err)
	}
	r, err := ReadReport(b.Bytes())
	if err != nil {
		t.Fatal(err)
	}
	var unknown *UnknownError
	if _, _, err := TakeReport(t.Context(), teacher, r, ""); !errors.As(err, &unknown) {
		t.Errorf("whose log it is was guessed: %v", err)
	}
	for _, c := range []struct {
		who   string
		added int
		fails bool
	}{{"juna", 2, false}, {"", 0, false}, {"Juna", 0, false}, {"Player 1", 0, true}, {"Nobody", 0, true}} {
		p, x, err := TakeReport(t.Context(), teacher, r, c.who)
		if x.Added != c.added || (err != nil) != c.fails || err == nil && p.ID != juna.ID {
			t.Errorf("%q: %+v %+v %v", c.who, p, x, err)
		}
	}
	rows, err := teacher.Log(t.Context(), juna.ID)
	if err != nil || len(rows) != 2 || rows[0].LickID != x.Items[0].Lick || rows[0].Picking != 130 {
		t.Errorf("%+v %v", rows, err)
	}
	if own, _ := teacher.Log(t.Context(), 1); len(own) != 0 {
		t.Errorf("the teacher’s own log has %d lines", len(own))
	}
	// Another student's does not go there.
	r.Key = "ffffffffffffffff"
	if _, _, err := TakeReport(t.Context(), teacher, r, "Juna"); err == nil {
		t.Error("two students share a log")
	}
}

// What is no set, or a torn one, is refused in one sentence and leaves nothing behind.
func TestHostileSets(t *testing.T) {
	s, x := filled(t)
	good := packed(t, s, x, false)
	z, err := zip.NewReader(bytes.NewReader(good), int64(len(good)))
	if err != nil {
		t.Fatal(err)
	}
	files := map[string]string{}
	for _, f := range z.File {
		r, _ := f.Open()
		data, _ := io.ReadAll(r)
		files[f.Name] = string(data)
	}
	zipOf := func(change func(map[string]string)) []byte {
		all := map[string]string{}
		for k, v := range files {
			all[k] = v
		}
		change(all)
		var b bytes.Buffer
		w := zip.NewWriter(&b)
		for name, text := range all {
			f, err := w.Create(name)
			if err == nil {
				_, err = io.WriteString(f, text)
			}
			if err != nil {
				t.Fatal(err)
			}
		}
		w.Close()
		return b.Bytes()
	}
	edit := func(from, to string) []byte {
		return zipOf(func(m map[string]string) {
			if !strings.Contains(m[setFile], from) {
				t.Fatalf("set.json has no %q", from)
			}
			m[setFile] = strings.Replace(m[setFile], from, to, 1)
		})
	}
	lickFile := "01-weir.lick.json"
	for name, data := range map[string][]byte{
		"empty": {}, "torn": good[:len(good)/2], "no set": zipOf(func(m map[string]string) { delete(m, setFile) }),
		"no json":     zipOf(func(m map[string]string) { m[setFile] = "[" }),
		"a lick less": zipOf(func(m map[string]string) { delete(m, lickFile) }),
		"a bad lick":  zipOf(func(m map[string]string) { m[lickFile] = `{"format":"ornamen-lick","version":1,"notes":3}` }),
		"a path":      edit(lickFile, "../../"+lickFile), "later": edit(`"version": 1`, `"version": 2`),
		"no key": edit(`"key": "`, `"key": "../`), "a day": edit(`"days": "Mo"`, `"days": "Mo; DROP"`),
		"a tempo": edit(`"tempo": 72`, `"tempo": -72`), "a field": edit(`"remark"`, `"remark2"`),
		"a kind": edit("homework", "feast"),
	} {
		to := notebook(t)
		if _, err := take(t, to, data); err == nil || strings.Contains(err.Error(), "\n") || len(err.Error()) > 200 {
			t.Errorf("%s: %v", name, err)
		}
		if c, err := to.Count(t.Context(), store.Query{}); err != nil || c.All != 0 {
			t.Errorf("%s left %d licks", name, c.All)
		}
	}
	for name, text := range map[string]string{
		"empty": "", "a list": "[]", "another": `{"format":"ornamen-lick"}`,
		"nobody":      `{"format":"ornamen-report","version":1,"player":{"key":"","name":"x"},"rounds":[]}`,
		"no rounds":   `{"format":"ornamen-report","version":1,"player":{"key":"0123456789abcdef","name":"x"}}`,
		"a bad round": `{"format":"ornamen-report","version":1,"player":{"key":"0123456789abcdef"},"rounds":[{"tempo":-1,"clean":1,"time":"2026-11-25T18:00:00Z"}]}`,
		"no time":     `{"format":"ornamen-report","version":1,"player":{"key":"0123456789abcdef"},"rounds":[{"tempo":60,"clean":1}]}`,
		"later":       `{"format":"ornamen-report","version":9,"player":{"key":"0123456789abcdef"},"rounds":[]}`,
	} {
		if _, err := ReadReport([]byte(text)); err == nil || strings.Contains(err.Error(), "\n") {
			t.Errorf("%s: %v", name, err)
		}
	}
}

// Two students began from copies of the teacher's notebook, and so have the teacher's key and name. Neither report goes
// anywhere without being asked for, each is bound to its student and not to the copy, and a wrong choice is taken back
// as a whole.
func TestReportsOfCopies(t *testing.T) {
	teacher, x := filled(t)
	ctx := t.Context()
	var names []string
	for _, name := range []string{"Juna", "Bram"} {
		if _, err := teacher.AddPlayer(ctx, name, 0); err != nil {
			t.Fatal(err)
		}
		names = append(names, name)
	}
	report := func(name string) Report {
		t.Helper()
		path := filepath.Join(t.TempDir(), name+".db")
		if err := teacher.Backup(ctx, path); err != nil {
			t.Fatal(err)
		}
		s, err := store.Open(path, func() time.Time { return now })
		if err != nil {
			t.Fatal(err)
		}
		defer s.Close()
		if _, err := practising.Add(ctx, s, 1, practice.Entry{Lick: x.Items[0].Lick, Title: name, Tempo: 60, Clean: 1,
			Time: now}); err != nil {
			t.Fatal(err)
		}
		who, err := s.PlayerNamed(ctx, "")
		if err != nil {
			t.Fatal(err)
		}
		var b bytes.Buffer
		if _, err := WriteReport(ctx, &b, s, who, nil); err != nil {
			t.Fatal(err)
		}
		r, err := ReadReport(b.Bytes())
		if err != nil {
			t.Fatal(err)
		}
		return r
	}
	first, second := report("first"), report("second")
	if first.Key != second.Key || first.Source() == second.Source() {
		t.Fatalf("%s %s", first.Source(), second.Source())
	}
	holds := func(name string, want int) {
		t.Helper()
		p, err := teacher.PlayerNamed(ctx, name)
		if err != nil {
			t.Fatal(err)
		}
		if log, err := teacher.Log(ctx, p.ID); err != nil || len(log) != want {
			t.Errorf("%s has %d lines, not %d (%v)", name, len(log), want, err)
		}
	}
	var unknown *UnknownError
	if _, _, err := TakeReport(ctx, teacher, first, ""); !errors.As(err, &unknown) || !refuse.Is(err) {
		t.Errorf("the first report went somewhere: %v", err)
	}
	holds("", 0)
	// The wrong one is chosen, and taken back; until then the right one is refused.
	_, wrong, err := TakeReport(ctx, teacher, first, names[1])
	if err != nil || wrong.Added != 1 {
		t.Fatalf("%+v %v", wrong, err)
	}
	if _, _, err := TakeReport(ctx, teacher, first, names[0]); err == nil ||
		!strings.Contains(err.Error(), "take it back") {
		t.Errorf("%v", err)
	}
	if _, n, err := teacher.TakeReadingBack(ctx, wrong.ID); err != nil || n != 1 {
		t.Errorf("%d lines went back, %v", n, err)
	}
	for i, r := range []Report{first, second} {
		for _, who := range []string{names[i], ""} {
			if p, _, err := TakeReport(ctx, teacher, r, who); err != nil || p.Name != names[i] {
				t.Errorf("%q: %s, %v", who, p.Name, err)
			}
		}
		holds(names[i], 1)
	}
	holds("", 0)
}
