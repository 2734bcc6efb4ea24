package page

import (
	"bytes"
	"embed"
	"fmt"
	"html/template"
	"io/fs"
	"net/http"
	"path"
	"strings"
	"time"
)

// Files are the frame of every page, the base of its style, fonts, and scripts from elsewhere.
//
//go:embed layout.html base.css page.js theme.js icon.svg vendor
var Files embed.FS

// LoadTemplates reads the templates of the folders, once: they are embedded. An error says which cannot be
// read; a page that names none that there is fails when it is drawn, which every screen's test shows.
func (a *Site) LoadTemplates(funcs template.FuncMap, folders ...fs.FS) error {
	pages := template.New("").Funcs(funcs)
	for _, folder := range folders {
		names, err := fs.Glob(folder, "*.html")
		if err != nil || len(names) == 0 {
			continue // a folder of scripts alone
		}
		if pages, err = pages.ParseFS(folder, names...); err != nil {
			return fmt.Errorf("web: templates: %w", err)
		}
	}
	a.pages = pages
	return nil
}

// Styles are the style sheets of the folders, in their order.
func Styles(folders ...fs.FS) (out []string) {
	for _, folder := range folders {
		names, _ := fs.Glob(folder, "*.css") // the pattern is a good one
		out = append(out, names...)
	}
	return out
}

// Script is a script that is made when the application starts.
type Script struct {
	Name string
	Text []byte
}

// Module is a script that loads others, each of which looks for its screen and leaves other pages alone. Only what must
// move in the browser is theirs: the caret, the keys, what is lit. Every change is made by the server, which sends back
// the fragments that changed. Once all of them are there the page says so: keys and words that are typed from then on
// are heard.
func Module(name string, others []string) Script {
	var b bytes.Buffer
	for _, x := range others {
		fmt.Fprintf(&b, "import './%s.js';\n", x)
	}
	b.WriteString("document.body.dataset.heard = 'yes';\n")
	return Script{name, b.Bytes()}
}

// Assets serves what a browser loads by name: all files of the folders but their templates. They are embedded and
// cannot change while the program runs. Under base, which bears a hash of all of them, the browser keeps them without
// asking again; under /assets/ alone it asks each time, with the validator. The error names a file that two folders
// have.
func Assets(made Script, folders ...fs.FS) (served http.Handler, base string, err error) {
	type asset struct {
		data []byte
		tag  string
	}
	all := map[string]asset{made.Name: {made.Text, `"` + HashOf(made.Text) + `"`}}
	tags := []string{made.Name, all[made.Name].tag}
	for _, folder := range folders {
		err := fs.WalkDir(folder, ".", func(name string, d fs.DirEntry, err error) error {
			if err != nil || d.IsDir() || path.Ext(name) == ".html" {
				return err
			}
			data, err := fs.ReadFile(folder, name)
			if _, twice := all[name]; twice {
				return fmt.Errorf("web: two files are called %s", name)
			}
			all[name] = asset{data, `"` + HashOf(data) + `"`}
			tags = append(tags, name, all[name].tag)
			return err
		})
		if err != nil {
			return nil, "", err
		}
	}
	base = "/assets/" + HashOf([]byte(strings.Join(tags, " "))) + "/"
	served = http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		name, kept := strings.CutPrefix(r.URL.Path, base)
		if !kept {
			name = strings.TrimPrefix(r.URL.Path, "/assets/")
		}
		f, ok := all[name]
		if !ok {
			http.NotFound(w, r)
			return
		}
		w.Header().Set("Cache-Control", "no-cache")
		if kept {
			w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
		}
		w.Header().Set("ETag", f.tag)
		http.ServeContent(w, r, name, time.Time{}, bytes.NewReader(f.data))
	})
	return served, base, nil
}
