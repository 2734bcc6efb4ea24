// Package load is what both hands are measured in: need over have. It holds the two lines
// between flows, tight and breaks, and the slack that proposals leave.
//
// A load of 1 is a move that has just the time it needs. Loads scale with the tempo, which is why a ceiling is exact:
// tempo over the largest load. At 100 with a largest load of 0.97 the line is clean up to 103.
package load
