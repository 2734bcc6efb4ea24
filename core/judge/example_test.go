package judge_test

import (
	"context"
	"fmt"

	"ornamen/core/judge"
	"ornamen/core/lick"
	"ornamen/core/player"
)

// One finger for two strings in turn cannot be fast; the tempo where it breaks is the ceiling.
func ExampleEngine_Check() {
	l := lick.New()
	l.Tempo = 120
	for i, fret := range []int{5, 9, 5, 9} {
		l.Notes = append(l.Notes, lick.Note{
			At: lick.NewTime(int64(i), 16), Len: lick.NewTime(1, 16), String: 2 - i%2, Fret: fret,
			Finger: lick.Index, Lock: lick.LockSet{lick.FieldFinger},
		})
	}
	e := judge.NewEngine(player.Default())
	for range 2 {
		r, err := e.Check(context.Background(), l)
		if err != nil {
			fmt.Println(err)
			return
		}
		fmt.Println(r.Verdict, "at", r.Tempo, "- clean up to", r.Ceiling.Whole())
		for _, f := range r.Findings[:3] {
			fmt.Printf("  %s, notes %v: %.0f of %.0f %s\n", f.Code, f.Notes, f.Need, f.Have, f.Unit)
		}
		l.Tempo = float64(r.Ceiling.Whole())
	}
	// Output:
	// breaks at 120 - clean up to 77
	//   finger-jump, notes [2 3]: 195 of 125 ms
	//   finger-jump, notes [3 4]: 192 of 125 ms
	//   finger-jump, notes [1 2]: 177 of 125 ms
	// tight at 77 - clean up to 77
	//   finger-jump, notes [2 3]: 195 of 195 ms
	//   finger-jump, notes [3 4]: 192 of 195 ms
	//   finger-jump, notes [1 2]: 177 of 195 ms
}

// Needs do not depend on the tempo and what there is shrinks with it: at twice the load half the
// tempo is left.
func ExampleCeilingOf() {
	fmt.Println(judge.CeilingOf(120, 2).Whole())
	// Output:
	// 60
}
