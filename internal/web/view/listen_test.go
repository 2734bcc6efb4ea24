package view

import (
	"io"
	"net/http"
	"net/http/httptest"
	"testing"
	"time"

	"ornamen/core/lick"
	"ornamen/core/neck"
	"ornamen/core/sound"
)

// A sound that is read as slowly as it plays arrives whole, however short the server's own patience is.
func TestSoundIsNotCut(t *testing.T) {
	l := lick.New()
	l.Tempo = 20
	for k := range 64 {
		l.Notes = append(l.Notes, lick.Note{At: lick.NewTime(int64(k), 4), Len: lick.NewTime(1, 4), String: 3, Fret: 5})
	}
	want := sound.NewRenderer(neck.Standard(), l, sound.Options{}).Len()*2 + 44
	s := httptest.NewUnstartedServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if err := sendWAV(w, r, sound.NewRenderer(neck.Standard(), l, sound.Options{}), l, false); err != nil {
			t.Error(err)
		}
	}))
	s.Config.WriteTimeout = 150 * time.Millisecond
	s.Start()
	defer s.Close()
	res, err := http.Get(s.URL)
	if err != nil {
		t.Fatal(err)
	}
	defer res.Body.Close()
	// More than lies in the buffers of the connection is left while the reader rests.
	head := make([]byte, 100_000)
	if _, err := io.ReadFull(res.Body, head); err != nil {
		t.Fatal(err)
	}
	time.Sleep(400 * time.Millisecond)
	rest, err := io.Copy(io.Discard, res.Body)
	if err != nil || rest+int64(len(head)) != want {
		t.Errorf("%d of %d bytes came: %v", rest+int64(len(head)), want, err)
	}
}
