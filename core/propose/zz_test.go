package propose

import (
	"fmt"
	"os"
	"testing"
	"time"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
)

func TestZZ(t *testing.T) {
	for _, f := range []string{"l256", "loop256", "l2048", "loop2048"} {
		data, _ := os.ReadFile("/tmp/w/" + f + ".lick.json")
		l, _ := lick.Parse(data)
		e := judge.NewEngine(player.DefaultPlayer())
		b := time.Now()
		r, _ := e.Check(t.Context(), l)
		c := time.Since(b)
		b = time.Now()
		e.Mend(t.Context(), l, r)
		m := time.Since(b)
		b = time.Now()
		_, err := Hands(t.Context(), e, l, Ask{})
		fmt.Println(f, "check", c, "mend", m, "hands", time.Since(b), r.LeftOut, err)
	}
}
