package demo

import (
	"fmt"
	"ornamen/core/play"
	"testing"
	"time"
)

func TestTmp(t *testing.T) {
	ls, err := Licks()
	if err != nil {
		t.Fatal(err)
	}
	e := play.NewEngine(play.DefaultPlayer())
	for _, l := range ls {
		t0 := time.Now()
		r := e.Check(l)
		d := time.Since(t0)
		e.Mend(l, r)
		fmt.Println(l.Title, len(l.Notes), r.Verdict, l.Tempo, r.Ceiling, r.BestPossible, r.Bottleneck, r.Reach, r.Changes, r.Exits, d)
		s := ""
		for _, n := range r.Lick.Notes {
			s += n.Finger.String()
		}
		fmt.Println("  ", s)
		for _, f := range r.Findings {
			fmt.Println("   ", f.Code, f.Severity, f.Notes, f.Need, f.Have, f.Unit, f.Text)
			for _, x := range f.Fixes {
				fmt.Println("        ->", x.Text, x.Ceiling)
			}
		}
	}
}
