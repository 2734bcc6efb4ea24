// Package sound computes what a line sounds like: plucked strings, bends and slides along
// their course, a bass, drums, held chords and a click.
//
// The words: a gesture is one thing that happens to a string (picked, hammered, pulled, slid, stopped); a course is how
// many cents a note lies off its fret over time; a round is once through the line, as a loop repeats it.
//
// Working: Plan reads a lick as gestures with times in samples. A Renderer renders them: each string is a delay line
// one period long that loses a little on every pass (Karplus and Strong, Computer Music Journal 7(2), 1983), read
// between its samples so that every pitch is exact (Jaffe and Smith, the same issue; both from memory). All is
// deterministic: the same lick and options give the same samples, however they are read. Memory does not grow with the
// length.
//
// Example: NewRenderer(guitar, lick, Options{}) and Read until it gives no more writes the line
// once at its tempo; WriteWAV puts it into a file.
package sound
