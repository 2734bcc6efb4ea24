package draw

import (
	"fmt"
	"math"

	"ornamen/core/judge"
)

// load draws how much of the time there is the note's move needs: the line of the lane is all
// of it. Of notes that sound together the worst is drawn. A bar is cut off at 1.35 of the time,
// since how far beyond it goes changes nothing; a move that no tempo allows says "never".
func (c *canvas) load(ln Lane, x float64, cells []Cell) {
	worst := cells[0]
	for _, cell := range cells[1:] {
		if cell.Severity > worst.Severity || cell.Severity == worst.Severity && cell.Load > worst.Load {
			worst = cell
		}
	}
	base := ln.Y + ln.H - 4
	full := base - fullY(ln)
	if !worst.Possible {
		c.rect(x-16, base-full*1.3, 32, full*1.3, "load breaks", "rx", 2.0)
		c.text(x, base-full*1.3-4, "loadno breaks", "never")
		return
	}
	if worst.Load <= 0 {
		return
	}
	bar := full * math.Min(worst.Load, 1.35)
	c.rect(x-16, base-bar, 32, bar, "load "+worst.Severity.String(), append(hatched(worst.Severity), "rx", 2.0)...)
	c.shares(x, base, full, worst)
	if worst.Severity > judge.Flows && worst.Load > 0.85 {
		c.text(x, base-bar-4, "loadno "+worst.Severity.String(), fmt.Sprintf("%.0f", math.Floor(worst.Load*100+1e-6)))
	}
}

// shares cuts a bend's load where its push ends and its release begins; what is left of
// the time between them is the hold.
func (c *canvas) shares(x, base, full float64, cell Cell) {
	y := base
	for _, s := range cell.Shares {
		if s.Name == "hold" {
			continue
		}
		h := full * s.Need / cell.Have
		if y-h < base-full*1.35 {
			return
		}
		if y < base {
			c.line(x-16, y, x+16, y, "share")
		}
		y -= h
	}
}

// hatched fills what is tight with stripes; Defs has the pattern.
func hatched(s judge.Severity) []any {
	if s == judge.Tight {
		return []any{"fill", "url(#hatch)"}
	}
	return nil
}
