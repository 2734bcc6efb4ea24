package bench

import (
	"bytes"
	"html/template"
)

// part is one fragment of the bench, drawn. The browser keeps the hash with it and sends all
// hashes along with the next request.
type part struct {
	Name string
	Hash string
	HTML template.HTML
}

// Open is the element around the part; the browser sends its hash back.
func (p part) Open() template.HTML {
	return template.HTML(
		`<div id="bench-` + p.Name + `" class="part part-` + p.Name + `" data-part="` + p.Name + `" data-hash="` +
			p.Hash + `">`,
	)
}

// writePartial writes the part as an htmx partial that morphs the old one.
func (p part) writePartial(b *bytes.Buffer) {
	b.WriteString(`<hx-partial hx-target="#bench-` + p.Name + `" hx-swap="outerMorph">`)
	b.WriteString(string(p.Open()))
	b.WriteString(string(p.HTML))
	b.WriteString("</div></hx-partial>\n")
}

// clearNotice takes an old notice away when an edit went through.
const clearNotice = `<hx-partial hx-target="#notice" hx-swap="innerHTML"></hx-partial>`
