package load

import "testing"

func TestLimit(t *testing.T) {
	for _, c := range []struct{ bound, want float64 }{{0.5, 0.575}, {0.97, 1}, {1, 1}, {1.2, 1.38}} {
		if got := Limit(c.bound, Slack); got < c.want-1e-12 || got > c.want+1e-12 {
			t.Errorf("Limit(%v) = %v, want %v", c.bound, got, c.want)
		}
	}
}
