package lick

import (
	"math/rand/v2"
	"slices"
	"testing"
)

// Two players set different fingers on one line, edit it in turn and each sees their own; what is music is shared.
func TestOwnHands(t *testing.T) {
	l := New()
	for i := range 4 {
		l.Notes = append(l.Notes, Note{At: NewTime(int64(i), 8), Len: NewTime(1, 8), String: 3, Fret: 5 + i})
	}
	edit := func(l Lick, key string, edits ...Edit) Lick {
		l = l.For(key)
		for _, e := range edits {
			var err error
			if l, err = e.Apply(l); err != nil {
				t.Fatal(err)
			}
		}
		l = l.Shared(key)
		again, err := Parse(l.Encode())
		if err != nil {
			t.Fatal(err)
		}
		return again
	}
	l = edit(l, "", SetFinger{0, Index}, SetFinger{3, Little})
	l = edit(l, "bo", SetFinger{3, Ring}, SetStroke{2, Up})
	l = edit(l, "cy", SetSlur{2, Hammer})
	if got := l.Notes[3].Finger; got != Little {
		t.Errorf("all share finger %s", got)
	}
	bo, cy := l.For("bo"), l.For("cy")
	if bo.Notes[3].Finger != Ring || !bo.Notes[3].Locked(FieldFinger) || cy.Notes[3].Finger != Little ||
		bo.Notes[0].Finger != Index {
		t.Errorf("bo has %s, cy %s", bo.Notes[3].Finger, cy.Notes[3].Finger)
	}
	if bo.Notes[2].Stroke != "" || bo.Notes[2].Slur != Hammer {
		t.Errorf("the hammer is %q with stroke %q", bo.Notes[2].Slur, bo.Notes[2].Stroke)
	}
	// A note that goes takes its hands along; one that comes has one hand for all.
	l = edit(l, "bo", Remove{Note: 0})
	if got := l.For("bo").Notes[2].Finger; got != Ring {
		t.Errorf("after the note before it went, bo has %s", got)
	}
	// Back to what all share is nothing of one's own.
	l = edit(l, "cy", SetSlur{1, ""})
	if got := l.For("bo").Notes[1].Stroke; got != Up {
		t.Errorf("picked again, bo's stroke is %q", got)
	}
	l = edit(l, "bo", SetFinger{2, Little}, SetStroke{1, ""})
	for i, n := range l.Notes {
		if len(n.Own) != 0 {
			t.Errorf("note %d keeps %v", i+1, n.Own)
		}
	}
}

// Whatever one player sets, the other players' hands and the shared ones stay as they are.
func TestOwnHandsApart(t *testing.T) {
	rng := rand.New(rand.NewPCG(26, 1))
	l := New()
	for i := range 12 {
		l.Notes = append(l.Notes, Note{At: NewTime(int64(i), 16), Len: NewTime(1, 16), String: 1 + i%3, Fret: 5 + i%4})
	}
	keys := []string{"", "a1", "b2"}
	hands := map[string][]Hand{}
	for _, k := range keys {
		hands[k] = make([]Hand, len(l.Notes))
	}
	owned := map[string][]bool{"a1": make([]bool, 12), "b2": make([]bool, 12)}
	for range 600 {
		k, i := keys[rng.IntN(3)], rng.IntN(12)
		f := Finger(rng.IntN(5))
		x, err := SetFinger{i, f}.Apply(l.For(k))
		if err != nil {
			t.Fatal(err)
		}
		l = x.Shared(k)
		before := hands[k][i]
		hands[k][i] = x.Notes[i].hand()
		if k == "" {
			for _, other := range keys[1:] { // those who set nothing of their own play what is shared
				if !owned[other][i] {
					hands[other][i] = hands[k][i]
				}
			}
		} else if !hands[k][i].equal(before) {
			owned[k][i] = !hands[k][i].equal(hands[""][i])
		}
		for _, k := range keys {
			got := l.For(k)
			for j := range got.Notes {
				if !got.Notes[j].hand().equal(hands[k][j]) {
					t.Fatalf("player %q, note %d: %+v, not %+v", k, j+1, got.Notes[j].hand(), hands[k][j])
				}
			}
		}
	}
	if bare := l.Bare(); slices.ContainsFunc(bare.Notes, func(n Note) bool { return n.Own != nil }) {
		t.Error("what leaves the notebook tells of single players")
	}
}
