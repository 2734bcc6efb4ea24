// Package jobs runs what takes longer than a blink: a few jobs at a time, each ended when
// its page goes, when its lick has changed or when the server stops.
//
// A job has a lick it is about. A newer revision of that lick ends it with ErrSuperseded as its context's cause, so the
// page can say why there is no answer. Jobs that wait for room hold no lock and are ended as well.
package jobs
