// Package pick is the picking hand: strokes, string changes, the way the pick leaves the
// strings, and the strokes that need least.
//
// # What a stroke needs
//
// Strokes of one string in turn need TurnNeed. A change to another string is of one of four kinds (Change), by the
// stroke before, the stroke after and the direction: outside, where the two strokes enclose both strings; inside, where
// they go through the gap; a sweep, where one stroke goes on into the next string; against, where the pick must first
// come back over it. A change that does not sweep leaves the strings, after a downstroke or an upstroke (the exit). A
// pick held at one angle serves one of the two exits; the other one needs ExitExtra more.
//
// # The search
//
// A state is the stroke of each note of an event. Solve goes over the events with the best value of every state,
// O(events·states²), in three orders: fewest breaches of the way that is asked for, least largest load, and within the
// slack of that the least effort. A breach is a step that the way does not allow: two strokes in one direction under
// alternate, or an outside change under economy where a sweep could be. Each value is a minimum over all ways to come
// to the state, so the result is exact; tests compare it with every row of strokes. In a loop the search is repeated
// for every first state, as the last move leads into it.
//
// # A worked example
//
// From string 3 to string 2 after a downstroke, the next stroke down: a sweep, 60 ms. The next stroke up: the pick
// comes back from beyond string 2, so that the two strokes enclose both strings; an outside change, 85 + 10 ms, which
// leaves after a downstroke. With up first and down then it would be an inside change, 85 + 15 ms, which leaves after
// an upstroke.
package pick
