package main

import (
	"bytes"
	"context"
	"encoding/binary"
	"strings"
	"testing"
)

// What play prints is a WAV file as long as the line at the tempo that was asked for.
func TestPlayCommand(t *testing.T) {
	path := demoFile(t, "Thaw bends")
	seconds := func(args ...string) float64 {
		status, out, stderr := call(append([]string{"play", path}, args...)...)
		if status != 0 || !strings.HasPrefix(out, "RIFF") || out[8:16] != "WAVEfmt " {
			t.Fatalf("%v: %d %s", args, status, stderr)
		}
		b := []byte(out)
		if int(binary.LittleEndian.Uint32(b[40:])) != len(b)-44 {
			t.Errorf("%v: the head says %d bytes, there are %d", args, binary.LittleEndian.Uint32(b[40:]), len(b)-44)
		}
		return float64(len(b)-44) / 2 / 44100
	}
	once := seconds()
	if slow := seconds("--tempo", "42"); slow < 1.8*(once-0.6) {
		t.Errorf("at half the tempo it lasts %.1f s, at its own %.1f", slow, once)
	}
	if three := seconds("--loop", "3", "--band", "--hold", "--click", "--count-in", "--drive",
		"0.5"); three < 3*(once-0.6) {
		t.Errorf("three rounds last %.1f s", three)
	}
	if part := seconds("--notes", "1-2"); part > once/2 {
		t.Errorf("two notes last %.1f s of %.1f", part, once)
	}
	// Who stops listening does not wait for the rest.
	gone, stop := context.WithCancel(t.Context())
	stop()
	var out, said bytes.Buffer
	if status := execute(gone, env{&out, &said, clock}, []string{"play", path, "--loop", "1000"}); status != exitStopped ||
		out.Len() > 1<<20 {
		t.Errorf("stopped: status %d after %d bytes, %s", status, out.Len(), said.String())
	}
	for _, bad := range [][]string{{"--tempo", "9000"}, {"--loop", "0"}, {"--notes", "9-3"}, {"--notes", "x"},
		{"--drive", "2"}} {
		if status, _, stderr := call(append([]string{"play", path}, bad...)...); status != 2 ||
			strings.Count(stderr, "\n") != 1 {
			t.Errorf("%v: %d %s", bad, status, stderr)
		}
	}
}
