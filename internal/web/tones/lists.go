package tones

import (
	"net/http"

	"github.com/go-chi/chi/v5"

	"ornamen/core/music"
	"ornamen/internal/store"
	"ornamen/internal/web/page"
	"ornamen/internal/web/view"
)

// listed is a row of a field's list: what it puts into the field, and what it is called.
type listed struct {
	Value string `json:"value"`
	Name  string `json:"name"`
}

// list finds what a field's list holds for what was typed. GET /lists/scales, keys or chords, with typed and the root
// on which keys and chords are where none is typed; the answer is JSON.
func (a Screen) list(w http.ResponseWriter, r *http.Request) error {
	var f struct {
		Typed string `form:"typed"`
		Root  string `form:"root"`
	}
	if err := a.Decode(r, &f); err != nil {
		return err
	}
	if _, err := music.ParseName(f.Root); err != nil {
		f.Root = "C"
	}
	rows := []listed{}
	switch chi.URLParam(r, "kind") {
	case "scales":
		for _, name := range music.SuggestScales(f.Typed) {
			if music.Matches(name, f.Typed) {
				rows = append(rows, listed{name, name})
			}
		}
		if len(rows) == 0 {
			for _, name := range music.SuggestScales(f.Typed)[:3] {
				rows = append(rows, listed{name, name})
			}
		}
	case "keys":
		for _, key := range music.SuggestKeys(f.Typed, f.Root) {
			p, err := music.ParseKey(key, nil, nil)
			if err != nil {
				return err
			}
			rows = append(rows, listed{key, p.Pretty()})
		}
	case "chords":
		for _, name := range music.SuggestChords(f.Typed, f.Root) {
			rows = append(rows, listed{name, view.PrettySigns(name)})
		}
	default:
		return store.ErrNotFound
	}
	return page.JSON(w, rows)
}
