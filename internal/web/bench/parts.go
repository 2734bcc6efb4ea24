package bench

import (
	"bytes"
	"fmt"
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
	return template.HTML(fmt.Sprintf(`<div id="bench-%[1]s" class="part part-%[1]s" data-part="%[1]s" data-hash="%[2]s">`,
		p.Name, p.Hash))
}

// writePartial writes the part as an htmx partial that morphs the old one.
func (p part) writePartial(b *bytes.Buffer) {
	fmt.Fprintf(b, `<hx-partial hx-target="#bench-%s" hx-swap="outerMorph">%s%s</div></hx-partial>`+"\n",
		p.Name, p.Open(), p.HTML)
}

// clearNotice takes an old notice away when an edit went through.
const clearNotice = `<hx-partial hx-target="#notice" hx-swap="innerHTML"></hx-partial>`
