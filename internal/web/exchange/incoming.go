package exchange

import (
	"archive/zip"
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"html/template"
	"io"
	"math/rand/v2"
	"mime/multipart"
	"net/http"
	"path/filepath"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"ornamen/core/lick"
	"ornamen/core/practice"
	"ornamen/core/say"
	"ornamen/core/sound"
	"ornamen/core/text"
	"ornamen/format"
	"ornamen/format/read"
	"ornamen/internal/archive"
	"ornamen/internal/handover"
	"ornamen/internal/lesson"
	"ornamen/internal/store"
	"ornamen/internal/web/draw"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// upload is a file that a page has sent and not yet taken into the notebook.
type upload struct {
	name string
	data []byte
}

// keptUploads is how many bytes of them are remembered; a page that asks for one that is gone is told
// to choose the file again.
const keptUploads = 64 << 20

// incoming is a file that may become licks, as it was understood: nothing of it is saved. A file of several lines shows
// one and offers the others; a zip lists its files, and takes those that can be read.
type incoming struct {
	Key, Name string
	Pasted    bool
	Tempo     float64 // of a recording, which may be said
	Line      int     // of the file's lines, from 1
	Lines     []read.Line
	Title     string
	Notes     int
	Setting   string
	Remarks   []remark // what was chosen, moved or left out
	Word      string
	Verdict   string
	Ceiling   string
	Hands     template.HTML
	Files     []incomingFile // of a zip
	Licks     int            // of those that can be read

	Rounds  string   // of a log or a report, in words
	When    string   // the days of it
	Whose   []string // the players whose it may be
	Theirs  string   // whose it says it is, or who reads it
	Persons bool     // a student's report, which says whose it is
}

// remark is a sentence on what was understood, with the line that it is about as it was written, if it is about one.
type remark struct{ Text, Line string }

// remarksOn finds the lines that remarks are about.
func remarksOn(u upload, said []string) []remark {
	var lines []string
	if !bytes.ContainsRune(u.data, 0) {
		lines = strings.Split(read.TextOf(u.data), "\n")
	}
	out := make([]remark, len(said))
	for i, s := range said {
		out[i].Text = page.SentenceCase(s)
		n := 0
		if _, err := fmt.Sscanf(s, "line %d", &n); err == nil && n > 0 && n <= len(lines) &&
			!strings.HasSuffix(s, "is not read.") {
			out[i].Line = text.Cut(strings.TrimRight(lines[n-1], " "), 120)
		}
	}
	return out
}

// incomingFile is one file of a zip.
type incomingFile struct {
	Name, Title, Setting, Refused string
	Remarks                       []string
}

// importLick takes a file, several, or a text that was pasted. What is wholly understood of a file goes into the
// notebook at once; else the page shows what was understood and what not, before anything is saved. A zip with a
// notebook in it is taken as it is, versions and all; other zips are licks in any format. The key of an upload is a
// hash of its name and bytes: the same file chosen twice is one.
func (a Screen) importLick(w http.ResponseWriter, r *http.Request) error {
	if id := r.FormValue("simulate"); id != "" {
		u, err := a.simulated(r, id)
		if err != nil {
			return err
		}
		return a.show(w, r, u)
	}
	if text := r.FormValue("text"); strings.TrimSpace(text) != "" {
		return a.show(w, r, upload{pastedName, []byte(text)})
	}
	if r.MultipartForm != nil && len(r.MultipartForm.File["file"]) > 1 {
		u, err := together(r.MultipartForm.File["file"])
		if err != nil {
			return err
		}
		return a.show(w, r, u)
	}
	f, head, err := r.FormFile("file")
	if err != nil {
		var tooLarge *http.MaxBytesError
		if errors.As(err, &tooLarge) {
			return err
		}
		return page.Refuse(errors.New("choose a file to import: a lick file, text tab, MusicXML, MIDI or a zip of them"))
	}
	defer f.Close()
	name := text.Clip(filepath.Base(head.Filename), 60)
	if read := a.wholeFile(name, f, head.Size); read != nil {
		t, err := a.begin(name, f, read)
		if err != nil {
			return err
		}
		return a.answer(w, r, t)
	}
	data, err := io.ReadAll(io.LimitReader(f, lick.MaxBytes+1))
	if len(data) > lick.MaxBytes {
		err = &http.MaxBytesError{Limit: lick.MaxBytes}
	}
	if err != nil {
		return err
	}
	u := upload{name, data}
	if isSound(name) || lesson.IsPractised(name, data) {
		return a.show(w, r, u)
	}
	if !isZip(name) {
		result, err := a.understood(r.Context(), u, 0, 0)
		switch {
		case err != nil:
			return err
		case len(result.Remarks) == 0 && len(result.Lines) < 2:
			return a.Begin(w, r, result.Lick, "imported from "+u.name)
		}
	}
	return a.show(w, r, u)
}

// wholeFile is how a zip is read in that holds a notebook or a set; nil for any other file.
func (a Screen) wholeFile(name string, f io.ReaderAt, size int64) func(context.Context, io.ReaderAt,
	func(float64)) (string, error) {
	switch {
	case !isZip(name):
		return nil
	case archive.Holds(f, size):
		return func(ctx context.Context, f io.ReaderAt, progress func(float64)) (string, error) {
			_, err := archive.Read(ctx, f, size, a.Store, progress)
			return "/", err
		}
	case lesson.Holds(f, size):
		return func(ctx context.Context, f io.ReaderAt, _ func(float64)) (string, error) {
			got, err := lesson.Take(ctx, a.Store, f, size)
			return fmt.Sprintf("/sets/%d?came=true&new=%t&added=%d&changed=%d&beside=%d", got.Set.ID, got.New, got.Added,
				got.Changed, got.Beside), err
		}
	}
	return nil
}

// pastedName is what a text is called that was pasted.
const pastedName = "pasted"

// show remembers an upload and goes to the page that shows what was understood of it.
func (a Screen) show(w http.ResponseWriter, r *http.Request, u upload) error {
	sum := sha256.Sum256(append([]byte(u.name+"\n"), u.data...))
	key := hex.EncodeToString(sum[:12])
	a.uploads.Put(key, u)
	return page.Redirect(w, r, "/import/"+key)
}

// together packs several files as one upload, which is looked at as a zip is.
func together(heads []*multipart.FileHeader) (upload, error) {
	var b bytes.Buffer
	z := zip.NewWriter(&b)
	for _, head := range heads {
		f, err := head.Open()
		if err != nil {
			return upload{}, err
		}
		w, err := z.Create(text.Clip(filepath.Base(head.Filename), 60))
		if err == nil {
			_, err = io.Copy(w, io.LimitReader(f, lick.MaxBytes+1))
		}
		f.Close()
		if err != nil {
			return upload{}, err
		}
	}
	if err := z.Close(); err != nil {
		return upload{}, err
	}
	return upload{say.Count(len(heads), "file") + ".zip", b.Bytes()}, nil
}

// simulated is the recording of a lick of the notebook as the simulated guitar plays it, a little early and late as a
// hand does.
func (a Screen) simulated(r *http.Request, id string) (upload, error) {
	n, err := strconv.ParseUint(id, 10, 32)
	if err != nil {
		return upload{}, store.ErrNotFound
	}
	e, err := a.Get(r.Context(), uint(n))
	if err != nil {
		return upload{}, err
	}
	l := e.Lick.Clone()
	rng := rand.New(rand.NewPCG(uint64(e.ID), 11))
	for i := range l.Notes {
		by := lick.NewTime(int64(rng.NormFloat64()*0.008*l.Tempo/240*4000), 4000)
		if at := l.Notes[i].At.Add(by); !at.Before(lick.Time{}) && (i == 0 || l.Notes[i-1].At.Before(at)) {
			l.Notes[i].At = at
		}
	}
	var b bytes.Buffer
	line := sound.NewRenderer(page.EngineOf(r.Context()).Player.Guitar, l, sound.Options{Dry: true})
	if err := sound.WriteWAV(r.Context(), &b, line); err != nil {
		return upload{}, err
	}
	return upload{playedName, b.Bytes()}, nil
}

// playedName is what a recording is called that was made here.
const playedName = "played.wav"

// isSound says whether a file is a recording, which is listened to.
func isSound(name string) bool { return strings.EqualFold(filepath.Ext(name), ".wav") }

// isZip says whether a file holds others.
func isZip(name string) bool { return strings.EqualFold(filepath.Ext(name), ".zip") }

// understood reads an upload with the engine, as work that waits for its turn: places that a file does not name are
// found by search. line counts from 0; tempo is a recording's, 0 for the one that is found. An error names the file and
// is the player's mistake. Its remarks are what the reader chose where the file left it open, and what of the file the
// lick does not hold.
func (a Screen) understood(ctx context.Context, u upload, line int, tempo float64) (out read.Result, err error) {
	out, err = page.Queued(ctx, a.Site, 0, func(ctx context.Context) (read.Result, error) {
		if isSound(u.name) {
			return handover.Listen(ctx, page.EngineOf(ctx), u.data, tempo, "")
		}
		return handover.Read(ctx, page.EngineOf(ctx), u.name, u.data, line)
	})
	if err != nil {
		return out, page.Mistake(fmt.Errorf("“%s” was not imported: %w", u.name, err))
	}
	if out.Lick.Title == "" {
		out.Lick.Title = format.TitleOf(u.name)
		if u.name == pastedName {
			out.Lick.Title = "Pasted lick"
		}
	}
	return out, nil
}

// importForm is what the player has chosen of a file.
type importForm struct {
	Line  int     `form:"line"`
	Tempo float64 `form:"tempo"` // of a recording
	Title string  `form:"title"`
	Who   string  `form:"who"` // of a log: whose it is
}

// uploaded finds the file that a page is about.
func (a Screen) uploaded(r *http.Request) (u upload, f importForm, err error) {
	if err := a.Decode(r, &f); err != nil {
		return u, f, err
	}
	u, ok := a.uploads.Get(chi.URLParam(r, "key"))
	if !ok {
		err = page.Refuse(errors.New("that file is no longer at hand; choose it again, nothing was saved"))
	}
	return u, f, err
}

// preview shows what was understood of a file. GET /import/KEY. The file is read again for each line that is looked at:
// it is small, and nothing of it is worth remembering but its bytes.
func (a Screen) preview(w http.ResponseWriter, r *http.Request) error {
	u, f, err := a.uploaded(r)
	if err != nil {
		return err
	}
	v := incoming{Key: chi.URLParam(r, "key"), Name: u.name, Pasted: u.name == pastedName}
	if lesson.IsPractised(u.name, u.data) {
		err = a.previewPractice(r.Context(), u, &v)
	} else if isZip(u.name) {
		err = a.previewZip(r.Context(), u, &v)
	} else {
		err = a.previewFile(r.Context(), u, f, &v)
	}
	if err != nil {
		return err
	}
	return a.Render(w, r, "import-page", page.Page{Title: "Import " + u.name, Where: "notebook", Data: v})
}

// previewPractice says what a log or a report holds, and asks the one question: whose it is.
func (a Screen) previewPractice(ctx context.Context, u upload, v *incoming) error {
	p, err := lesson.ReadPractised(u.name, u.data)
	if err != nil {
		return page.Refuse(err)
	}
	v.Rounds, v.Theirs = say.Count(p.Rounds, "round"), page.Playing(ctx).Who.Name
	if first, last := p.Days(); last > 0 {
		today := practice.DateOf(a.Store.Now())
		v.When = "of " + last.Word(today)
		if first != last {
			v.When = fmt.Sprintf("from %s to %s", first.Word(today), last.Word(today))
		}
	}
	if p.Report != nil {
		v.Persons, v.Theirs = true, p.Report.Name
	}
	for _, x := range a.Players() {
		v.Whose = append(v.Whose, x.Who.Name)
	}
	return nil
}

// takePractice adds a log or a report to the log of the player who was chosen.
func (a Screen) takePractice(w http.ResponseWriter, r *http.Request, u upload, who string) error {
	p, err := lesson.ReadPractised(u.name, u.data)
	if err != nil {
		return page.Refuse(err)
	}
	to, reading, err := p.Take(r.Context(), a.Store, page.Playing(r.Context()).Who, who)
	if err != nil {
		return page.Mistake(err)
	}
	page.Choose(w, r, to.Key)
	return page.Redirect(w, r, fmt.Sprintf("/practice/log?added=%d&of=%d&reading=%d", reading.Added, p.Rounds, reading.ID))
}

// previewFile judges the one line and draws it with both hands.
// The hands are those that the judge fills in, the file's own fingers and strokes kept.
func (a Screen) previewFile(ctx context.Context, u upload, f importForm, v *incoming) error {
	in, err := a.understood(ctx, u, f.Line, f.Tempo)
	if err != nil {
		return err
	}
	rep, err := page.EngineOf(ctx).Check(ctx, in.Lick)
	if err != nil {
		return err
	}
	v.Lines, v.Line, v.Remarks = in.Lines, in.Line+1, remarksOn(u, in.Remarks)
	if isSound(u.name) {
		v.Tempo = in.Lick.Tempo
	}
	v.Title, v.Notes, v.Setting = in.Lick.Title, len(in.Lick.Notes), settingOf(in.Lick)
	v.Verdict, v.Word = rep.Verdict.String(), view.SentenceWord(rep.Verdict)
	v.Ceiling = rep.Ceiling.String()
	v.Hands = draw.HandsSVG(rep.Lick, nil, in.Unsure) // what was not clear is marked
	return nil
}

// settingOf says count, tempo, tones and chords: "12 notes, 4/4, 96 quarters a minute, A minor, over Am G".
func settingOf(l lick.Lick) string {
	s := fmt.Sprintf("%s, %s, %g quarters a minute", say.Count(len(l.Notes), "note"), l.Meter, l.Tempo)
	if l.Feel == lick.Shuffle {
		s += ", shuffle"
	}
	if !l.Pickup.IsZero() {
		s += ", a pick-up of " + l.Pickup.String()
	}
	if l.Key.Tonic != "" {
		s += ", " + view.PrettySigns(l.TonesText())
	}
	for i, c := range l.Chords {
		if i == 0 {
			s += ", over"
		}
		if i < 8 {
			s += " " + view.PrettySigns(c.Name)
		}
	}
	return s
}

// unpacked reads an upload's licks, as work that waits for its turn.
func (a Screen) unpacked(ctx context.Context, u upload) (files []format.Packed, err error) {
	files, err = page.Queued(ctx, a.Site, 0, func(ctx context.Context) ([]format.Packed, error) {
		return handover.Unpack(ctx, page.EngineOf(ctx), bytes.NewReader(u.data), int64(len(u.data)))
	})
	if err != nil {
		return nil, page.Mistake(fmt.Errorf("“%s” was not imported: %w", u.name, err))
	}
	for i := range files {
		if f := &files[i]; f.Err == nil && f.Lick.Title == "" {
			f.Lick.Title = format.TitleOf(f.Name)
		}
	}
	return files, nil
}

// previewZip lists what every file of a zip holds. Each is read, and none judged: a zip may hold two thousand.
func (a Screen) previewZip(ctx context.Context, u upload, v *incoming) error {
	files, err := a.unpacked(ctx, u)
	if err != nil {
		return err
	}
	for _, f := range files {
		row := incomingFile{Name: f.Name, Remarks: f.Remarks}
		if f.Err != nil {
			row.Refused = page.Sentence(f.Err.Error())
		} else {
			row.Title, row.Setting = f.Lick.Title, settingOf(f.Lick)
			v.Licks++
		}
		v.Files = append(v.Files, row)
	}
	return nil
}

// takeUpload takes what was shown into the notebook: one line, or every lick of a zip, all of them or none. POST. The
// title of the form, if one is typed, goes before the file's. Files of a zip that cannot be read were refused on the
// page and are left out.
func (a Screen) takeUpload(w http.ResponseWriter, r *http.Request) error {
	u, f, err := a.uploaded(r)
	if err != nil {
		return err
	}
	if lesson.IsPractised(u.name, u.data) {
		return a.takePractice(w, r, u, f.Who)
	}
	if !isZip(u.name) {
		in, err := a.understood(r.Context(), u, f.Line, f.Tempo)
		if err != nil {
			return err
		}
		if t := strings.TrimSpace(f.Title); t != "" {
			in.Lick.Title = text.Cut(t, read.MaxTitle)
		}
		return a.Begin(w, r, in.Lick, "imported from "+u.name)
	}
	files, err := a.unpacked(r.Context(), u)
	if err != nil {
		return err
	}
	var all store.Whole
	for _, p := range files {
		if p.Err == nil {
			all.Chains = append(all.Chains, store.NewChain(p.Lick, "imported from "+p.Name, a.Store.Now()))
		}
	}
	if len(all.Chains) == 0 {
		return page.Refuse(errors.New("the zip holds no file that is a lick"))
	}
	if _, err := a.Store.AddAll(r.Context(), all); err != nil {
		return err
	}
	a.Wake()
	return page.Redirect(w, r, "/")
}
