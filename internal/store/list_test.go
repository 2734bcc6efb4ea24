package store

import (
	"fmt"
	"path/filepath"
	"slices"
	"testing"

	"ornamen/core/lick"
)

func ids(rows []Row) (out []uint) {
	for _, r := range rows {
		out = append(out, r.ID)
	}
	return out
}

// The notebook is found, filtered, sorted and paged by the database.
func TestList(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "n.db"))
	for i, l := range []lick.Lick{
		{Title: "Owl steps", Tags: []string{"warm-up", "barn"}, Key: lick.Key{Tonic: "C#", Scale: "minor pentatonic",
			Add: []string{"9"}}},
		{Title: "bell 100%", Tags: []string{"barn"}, Key: lick.Key{Tonic: "Eb", Scale: "dorian"}},
		{Title: "Ash", Tags: nil},
	} {
		l.Tuning, l.Meter, l.Tempo, l.Feel = lick.New().Tuning, lick.New().Meter, 100, lick.Straight
		if e, err := s.Add(ctx, l, "made"); err != nil || e.ID != uint(i+1) {
			t.Fatal(err)
		}
	}
	for _, c := range []struct {
		q    Query
		want []uint
	}{
		{Query{}, []uint{3, 2, 1}},
		{Query{Order: ByTitle}, []uint{3, 2, 1}},
		{Query{Find: "steps owl"}, []uint{1}},
		{Query{Find: "c#"}, []uint{1}},
		{Query{Find: "C♯ minor"}, []uint{1}},
		{Query{Find: "e♭"}, []uint{2}},
		{Query{Find: "100%"}, []uint{2}},
		{Query{Find: "%"}, []uint{2}},
		{Query{Find: "barn"}, []uint{2, 1}},
		{Query{Tag: "barn"}, []uint{2, 1}},
		{Query{Tag: "barn", Find: "owl"}, []uint{1}},
		{Query{Tag: "nowhere"}, nil},
		{Query{Offset: 1, Limit: 1}, []uint{2}},
	} {
		if c.q.Limit == 0 {
			c.q.Limit = 50
		}
		rows, err := s.List(ctx, c.q)
		if err != nil || !slices.Equal(ids(rows), c.want) {
			t.Errorf("%+v: %v, want %v (%v)", c.q, ids(rows), c.want, err)
		}
	}
	if tags, err := s.Tags(ctx, 9); err != nil || !slices.Equal(tags, []string{"barn", "warm-up"}) {
		t.Errorf("%v %v", tags, err)
	}
	// What was judged for another player, or before an edit, counts as not judged.
	list, _ := s.Unjudged(ctx, 1, "p", 9)
	if len(list) != 3 {
		t.Fatalf("%d to judge", len(list))
	}
	if err := s.Summarise(ctx, []Summary{{LickID: 1, RevisionID: list[2].Revision, PlayerID: 1, Player: "p", Severity: 1,
		Margin: 0.9, Notes: 4, Data: []byte("a")}, {LickID: 2, RevisionID: list[1].Revision, PlayerID: 1, Player: "p",
		Severity: 2, Margin: 0.5, Notes: 4, Data: []byte("b")}}); err != nil {
		t.Fatal(err)
	}
	worst, _ := s.List(ctx, Query{Order: WorstFirst, Who: 1, Player: "p", Limit: 9})
	if !slices.Equal(ids(worst), []uint{2, 1, 3}) || worst[0].Summary == nil || worst[2].Summary != nil {
		t.Errorf("worst first: %v", ids(worst))
	}
	if c, err := s.Count(ctx, Query{Who: 1, Player: "p"}); err != nil || c.All != 3 || c.Judged != 2 || c.Of[2] != 1 {
		t.Errorf("%+v %v", c, err)
	}
	if c, _ := s.Count(ctx, Query{Who: 1, Player: "q"}); c.Judged != 0 {
		t.Errorf("another player: %+v", c)
	}
	e, _ := s.Get(ctx, 1)
	if _, err := s.Commit(ctx, 1, e.Revision, titled("Owl again"), "edit"); err != nil {
		t.Fatal(err)
	}
	if list, _ := s.Unjudged(ctx, 1, "p", 9); !slices.Equal(ids(list), []uint{1, 3}) {
		t.Errorf("after an edit: %v", ids(list))
	}
	if sum, ok, err := s.SummaryOf(ctx, 1, 1); err != nil || !ok || sum.Severity != 1 {
		t.Errorf("%+v %v %v", sum, ok, err)
	}
}

// Ten thousand licks of thirty-two notes, all judged: the first page, a search and
// the counts.
func BenchmarkNotebook(b *testing.B) {
	s, err := Open(filepath.Join(b.TempDir(), "n.db"), clock)
	if err != nil {
		b.Fatal(err)
	}
	defer s.Close()
	const n = 10000
	l := lick.New()
	for i := range 32 {
		l.Notes = append(l.Notes,
			lick.Note{At: lick.NewTime(int64(i), 16), Len: lick.NewTime(1, 16), String: 1 + i%3, Fret: 5 + i%4})
	}
	for i := range n {
		l.Title, l.Tags = fmt.Sprintf("Lick %d", i), []string{fmt.Sprintf("tag %d", i%20)}
		e, err := s.Add(ctx, l, "made")
		if err != nil {
			b.Fatal(err)
		}
		if err := s.Summarise(ctx, []Summary{{LickID: e.ID, RevisionID: e.Revision, PlayerID: 1, Player: "p", Severity: i % 3,
			Margin: float64(i), Notes: 32, Data: make([]byte, 1500)}}); err != nil {
			b.Fatal(err)
		}
	}
	for _, c := range []struct {
		name string
		q    Query
	}{{"page", Query{}}, {"last", Query{Offset: n - 50}}, {"search", Query{Find: "lick 77"}}, {"tag",
		Query{Tag: "tag 7"}}, {"title", Query{Order: ByTitle}}, {"worst", Query{Order: WorstFirst}}} {
		c.q.Limit, c.q.Who, c.q.Player = 50, 1, "p"
		b.Run(c.name, func(b *testing.B) {
			for b.Loop() {
				if _, err := s.List(ctx, c.q); err != nil {
					b.Fatal(err)
				}
				if _, err := s.Count(ctx, c.q); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
