package archive

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"path"
	"slices"
	"strings"
	"time"

	"ornamen/core/lick"
	"ornamen/core/player"
	"ornamen/core/text"
	"ornamen/format/read"
	"ornamen/internal/practising"
	"ornamen/internal/store"
)

// Limits of what is read: a zip says little of what it unpacks to. Both are beyond any notebook: half a million
// versions are an edit every half minute, eight hours a day, for a year and a half.
const (
	maxFiles = 500_000
	maxTotal = 1 << 30
)

// formatName and formatVersion stand in every archive's head. In the first version the log's revisions were keys of the
// database that it came from, which say nothing elsewhere. Up to the second there was one player, without a name.
const formatName, formatVersion = "ornamen-notebook", 3

// head says what the archive is and by which version it was written.
// A later version than this one's is refused: it may hold what would be lost.
type head struct {
	Format  string `json:"format"`
	Version int    `json:"version"`
}

// history is the chain of one lick: its versions in order, and which one is shown.
// Numbers count from 1. Together with the files this is the whole chain, undo included.
type history struct {
	Key      string    `json:"key,omitempty"` // names the lick beyond the notebook
	Head     int       `json:"head"`          // number of the version that is shown
	Versions []version `json:"versions"`
}

// version is one version of a lick: its file in the archive and what made it.
// Aside marks one that undo has left and that a later edit went past.
type version struct {
	File   string    `json:"file"`
	What   string    `json:"what"`
	Parent int       `json:"parent,omitempty"` // number of the version it was made on
	Aside  bool      `json:"aside,omitempty"`
	At     time.Time `json:"at"`
}

// palette is a palette kept by name.
type palette struct {
	Name    string `json:"name"`
	Tonic   string `json:"tonic"`
	Scale   string `json:"scale"`
	Added   string `json:"added,omitempty"`
	Dropped string `json:"dropped,omitempty"`
}

// recipe is a recipe, or changes, kept by name.
type recipe struct {
	Name string `json:"name"`
	Line string `json:"line"`
}

// one is a player as the archive has them; settings and log lie in a folder of the player's number.
type one struct {
	Key     string     `json:"key"`
	Name    string     `json:"name"`
	Source  string     `json:"source,omitempty"`
	At      time.Time  `json:"at"`
	Removed *time.Time `json:"removed,omitempty"`
}

// set is a set whose licks are named by their places among the folders, from 1.
type set struct {
	Key    string          `json:"key"`
	Name   string          `json:"name"`
	Kind   store.SetKind   `json:"kind,omitempty"`
	Target string          `json:"target,omitempty"`
	Remark string          `json:"remark,omitempty"`
	Items  []store.SetItem `json:"items"`
}

// Write writes the notebook as a zip and says how many licks it holds: notebook.json as its
// head, a folder a lick with a file for each version and history.json, then palettes, recipes,
// changes, the players with their settings and logs, and the sets. Versions that cannot be read go out as they are;
// deleted licks stay behind. Each chain is read on its own, so that a write meanwhile is in it
// or not. An error leaves a zip without its directory, which nobody can open by mistake.
func Write(ctx context.Context, w io.Writer, s *store.Store) (licks int, err error) {
	z := zip.NewWriter(w)
	put := func(name string, data []byte) {
		if err != nil {
			return
		}
		var f io.Writer
		if f, err = z.Create(name); err == nil {
			_, err = f.Write(data)
		}
	}
	putJSON := func(name string, v any) {
		data, e := json.MarshalIndent(v, "", "  ")
		err = errors.Join(err, e)
		put(name, append(data, '\n'))
	}
	putJSON("notebook.json", head{formatName, formatVersion})
	ids, e := s.Ids(ctx)
	err = errors.Join(err, e)
	numbers := map[uint]uint{} // of a revision, its number in its chain
	for n, id := range ids {
		c, e := s.ChainOf(ctx, id)
		if err = errors.Join(err, e); err != nil {
			return 0, err
		}
		folder := fmt.Sprintf("licks/%05d", n+1)
		if l, e := lick.Parse(c.Past[c.Head-1].Data); e == nil && l.FileName() != "" {
			folder += "-" + l.FileName()
		}
		h := history{Key: c.Key, Head: c.Head}
		for i, p := range c.Past {
			numbers[p.ID] = uint(i + 1)
			name := fmt.Sprintf("%04d.lick.json", i+1)
			put(folder+"/"+name, p.Data)
			h.Versions = append(h.Versions, version{File: name, What: p.What, Parent: p.Parent, Aside: p.Aside, At: p.At})
		}
		putJSON(folder+"/history.json", h)
	}
	saved, e := s.Palettes(ctx)
	err = errors.Join(err, e)
	ps := []palette{}
	for _, p := range saved {
		ps = append(ps, palette{Name: p.Name, Tonic: p.Tonic, Scale: p.Scale, Added: p.Added, Dropped: p.Dropped})
	}
	putJSON("palettes.json", ps)
	lines, e := s.Recipes(ctx)
	err = errors.Join(err, e)
	rs := []recipe{}
	for _, r := range lines {
		rs = append(rs, recipe{r.Name, r.Line})
	}
	putJSON("recipes.json", rs)
	forms, e := s.AllChanges(ctx)
	err = errors.Join(err, e)
	cs := []recipe{}
	for _, c := range forms {
		cs = append(cs, recipe{c.Name, c.Line})
	}
	putJSON("changes.json", cs)
	place := func(id uint) uint { return uint(slices.Index(ids, id) + 1) }
	players, e := s.AllPlayers(ctx)
	err = errors.Join(err, e)
	list := []one{}
	for i, p := range players {
		o := one{Key: p.Key, Name: p.Name, Source: p.Source, At: p.CreatedAt}
		if p.DeletedAt.Valid {
			o.Removed = &p.DeletedAt.Time
		}
		list = append(list, o)
		folder := fmt.Sprintf("players/%02d/", i+1)
		played, e := s.Log(ctx, p.ID)
		err = errors.Join(err, e)
		for i := range played { // a lick is named by its place among the folders, a version by its number
			played[i].LickID, played[i].RevisionID = place(played[i].LickID), numbers[played[i].RevisionID]
		}
		if len(played) > 0 {
			putJSON(folder+"practice.json", played)
		}
		settings, e := s.Settings(ctx, p.ID)
		err = errors.Join(err, e)
		if settings.Data != nil {
			put(folder+"settings.json", settings.Data)
		}
	}
	putJSON("players.json", list)
	sets, e := s.Sets(ctx)
	err = errors.Join(err, e)
	ss := []set{}
	for _, x := range sets {
		items := []store.SetItem{}
		for _, it := range x.Items {
			it.Lick, it.From = place(it.Lick), place(it.From)
			items = append(items, it)
		}
		ss = append(ss, set{Key: x.Key, Name: x.Name, Kind: x.Kind, Target: x.Target, Remark: x.Remark, Items: items})
	}
	putJSON("sets.json", ss)
	if err != nil {
		return 0, err
	}
	return len(ids), z.Close()
}

// Holds says whether a zip is a notebook that Write wrote; others may hold licks alone.
func Holds(r io.ReaderAt, size int64) bool {
	z, err := zip.NewReader(r, size)
	return err == nil && slices.ContainsFunc(z.File, func(f *zip.File) bool { return f.Name == "notebook.json" })
}

// Read adds what an archive holds to the notebook, all of it or nothing, and says how many licks came that were not
// here as they are. progress is told how far it is, in parts of one; nil where nobody asks.
func Read(ctx context.Context, r io.ReaderAt, size int64, s *store.Store, progress func(float64)) (licks int,
	err error) {
	if progress == nil {
		progress = func(float64) {}
	}
	z, err := zip.NewReader(r, size)
	if err != nil {
		return 0, errors.New("this is no zip file, or a damaged one")
	}
	if len(z.File) > maxFiles {
		return 0, fmt.Errorf("it holds more than %d files", maxFiles)
	}
	u := unpacker{files: map[string]*zip.File{}, left: maxTotal}
	var folders []string
	for _, f := range z.File {
		if u.files[f.Name] != nil {
			return 0, fmt.Errorf("it names the file %s twice", text.Clip(f.Name, 60))
		}
		u.files[f.Name] = f
		if dir, name := path.Split(f.Name); name == "history.json" && strings.HasPrefix(dir, "licks/") {
			folders = append(folders, strings.TrimSuffix(dir, "/"))
		}
	}
	var h head
	if err := u.json("notebook.json", &h); err != nil || h.Format != formatName {
		return 0, errors.New("this zip holds no notebook of Ornamen; licks alone are imported one by one")
	}
	if h.Version > formatVersion {
		return 0, errors.New("it was written by a later Ornamen")
	}
	var w store.Whole
	slices.Sort(folders)
	for i, dir := range folders {
		if err := ctx.Err(); err != nil {
			return 0, err
		}
		progress(float64(i) / float64(2*len(folders)))
		c, err := u.chain(dir)
		if err != nil {
			return 0, fmt.Errorf("%s: %w", dir, err)
		}
		w.Chains = append(w.Chains, c)
	}
	var ps []palette
	var rs, cs []recipe
	if err := errors.Join(u.maybe("palettes.json", &ps), u.maybe("recipes.json", &rs),
		u.maybe("changes.json", &cs)); err != nil {
		return 0, err
	}
	if w.Players, err = u.players(h.Version); err != nil {
		return 0, err
	}
	var ss []set
	if err := u.maybe("sets.json", &ss); err != nil {
		return 0, err
	}
	for _, x := range ss {
		add := store.Set{Key: x.Key, Name: x.Name, Kind: x.Kind, Target: x.Target, Remark: x.Remark, Items: x.Items}
		if err := add.Check(); err != nil {
			return 0, fmt.Errorf("sets.json: %w", err)
		}
		w.Sets = append(w.Sets, add)
	}
	for _, p := range ps {
		w.Palettes = append(w.Palettes,
			store.Palette{Name: p.Name, Tonic: p.Tonic, Scale: p.Scale, Added: p.Added, Dropped: p.Dropped})
	}
	for _, r := range rs {
		w.Recipes = append(w.Recipes, store.Recipe{Name: r.Name, Line: r.Line})
	}
	for _, c := range cs {
		w.Changes = append(w.Changes, store.Changes{Name: c.Name, Line: c.Line})
	}
	w.Progress = func(done, of int) { progress(0.5 + float64(done)/float64(2*max(1, of))) }
	return s.AddAll(ctx, w)
}

// players reads the players of an archive; up to its second version there was one, without a name.
func (u *unpacker) players(version int) (out []store.Playing, err error) {
	list := []one{{}}
	settings, log := func(int) string { return "player.json" }, func(int) string { return "practice.json" }
	if version > 2 {
		list = nil
		settings = func(i int) string { return fmt.Sprintf("players/%02d/settings.json", i+1) }
		log = func(i int) string { return fmt.Sprintf("players/%02d/practice.json", i+1) }
		if err := u.json("players.json", &list); err != nil {
			return nil, err
		}
	}
	for i, o := range list {
		p := store.Playing{Player: store.Player{Key: o.Key, Name: o.Name, Source: o.Source, CreatedAt: o.At}}
		if version > 2 && (o.Key == "" || len(o.Key) > 64) {
			return nil, fmt.Errorf("players.json: player %d has no key", i+1)
		}
		if o.Removed != nil {
			p.DeletedAt.Time, p.DeletedAt.Valid = *o.Removed, true
		}
		if err := u.maybe(log(i), &p.Log); err != nil {
			return nil, err
		}
		for k := range p.Log {
			if version == 1 {
				p.Log[k].RevisionID = 0
			}
		}
		if err := practising.Check(p.Log); err != nil {
			return nil, err
		}
		if u.files[settings(i)] != nil {
			if p.Settings, err = u.bytes(settings(i)); err != nil {
				return nil, err
			}
			if err := checkPlayer(p.Settings); err != nil {
				return nil, fmt.Errorf("%s: %w", settings(i), err)
			}
		}
		out = append(out, p)
	}
	return out, nil
}

// checkPlayer says what is wrong with a player's settings: a notebook with such ones would not open again.
func checkPlayer(data []byte) error {
	p, err := player.ParseProfile(data)
	if err != nil {
		return errors.New("it cannot be read")
	}
	_, err = p.Player()
	return err
}

// unpacker reads the archive's files, bounded in number and size. left is how many bytes may still be unpacked.
type unpacker struct {
	files map[string]*zip.File
	left  int64
}

// bytes is a file's content; one that is too long is refused.
// What the zip says of its size is not believed: the bytes themselves are counted.
func (u *unpacker) bytes(name string) ([]byte, error) {
	f := u.files[name]
	if f == nil {
		return nil, fmt.Errorf("%s is missing", name)
	}
	data, err := read.Unpacked(f, min(u.left, lick.MaxBytes), name)
	u.left -= int64(len(data))
	return data, err
}

// json reads a file strictly into v. A field that is not known is an error, as this file is ours.
func (u *unpacker) json(name string, v any) error {
	data, err := u.bytes(name)
	if err != nil {
		return err
	}
	d := json.NewDecoder(bytes.NewReader(data))
	d.DisallowUnknownFields()
	if err := d.Decode(v); err != nil {
		return fmt.Errorf("%s cannot be read: %w", name, err)
	}
	return nil
}

// maybe is json for a file that may be missing.
func (u *unpacker) maybe(name string, v any) error {
	if u.files[name] == nil {
		return nil
	}
	return u.json(name, v)
}

// chain reads a lick with its versions and checks that they hang together: a version is made on
// an earlier one, a file lies in its own folder, the version that is shown can be read. Older
// ones that cannot be read come along as they are, as Write sends them.
func (u *unpacker) chain(dir string) (store.Chain, error) {
	var h history
	if err := u.json(dir+"/history.json", &h); err != nil {
		return store.Chain{}, err
	}
	if len(h.Key) > 64 {
		return store.Chain{}, errors.New("history.json names the lick too long")
	}
	c := store.Chain{Key: h.Key, Head: h.Head}
	if h.Head < 1 || h.Head > len(h.Versions) {
		return c, fmt.Errorf("history.json names version %d of %d", h.Head, len(h.Versions))
	}
	named := map[string]bool{}
	for i, v := range h.Versions {
		if v.Parent < 0 || v.Parent > i || path.Base(v.File) != v.File {
			return c, fmt.Errorf("version %d does not hang together", i+1)
		}
		if named[v.File] { // a small file that unfolds to much
			return c, fmt.Errorf("version %d is the file %s once more", i+1, text.Clip(v.File, 40))
		}
		named[v.File] = true
		data, err := u.bytes(dir + "/" + v.File)
		if err != nil {
			return c, err
		}
		if i+1 == h.Head {
			if _, err := lick.Parse(data); err != nil {
				return c, fmt.Errorf("%s: %w", v.File, err)
			}
		}
		c.Past = append(c.Past, store.Past{Parent: v.Parent, Data: data, What: v.What, Aside: v.Aside, At: v.At})
	}
	return c, nil
}
