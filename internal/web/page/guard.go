package page

import (
	"fmt"
	"io"
	"net"
	"net/http"
	"strings"

	"github.com/go-chi/chi/v5/middleware"
)

// policy lets a page load only what the application ships.
const policy = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; " +
	"connect-src 'self'; form-action 'self'; frame-ancestors 'none'; base-uri 'none'"

// Secure sets the headers that every answer carries. They hold against a page that another site opens or embeds: no
// script but ours, no frame, no picture shown elsewhere, no guess at what a file is. Answers that need more say so
// themselves.
func Secure(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", policy)
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		next.ServeHTTP(w, r)
	})
}

// notOurs answers what another site's page has asked for.
func notOurs(w http.ResponseWriter, _ *http.Request) {
	http.Error(w, "Ornamen answers only to its own pages.", http.StatusForbidden)
}

// OwnPagesOnly refuses what another site's page would change, and what it would fetch or embed: it
// may not show that, by the headers of secure, but asking alone would make work. A link to a page
// that a player follows from there is welcome.
func OwnPagesOnly(next http.Handler) http.Handler {
	own := http.NewCrossOriginProtection()
	own.SetDenyHandler(http.HandlerFunc(notOurs))
	return own.Handler(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if elsewhere(r) &&
			(r.Header.Get("Sec-Fetch-Mode") != "navigate" || r.Header.Get("Sec-Fetch-Dest") != "document") {
			notOurs(w, r)
			return
		}
		next.ServeHTTP(w, r)
	}))
}

// OwnWorkOnly refuses even a link from another site to what starts a search, renders sound or packs the notebook.
func OwnWorkOnly(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if elsewhere(r) {
			notOurs(w, r)
			return
		}
		next.ServeHTTP(w, r)
	})
}

// elsewhere says whether a page of another site asks, by the header that browsers send with
// every request to this machine. A program that sends none is not a browser.
func elsewhere(r *http.Request) bool {
	site := r.Header.Get("Sec-Fetch-Site")
	return site == "cross-site" || site == "same-site"
}

// SayFault puts a sentence into the empty page that the recovery of a fault leaves, which
// keeps one request's fault from ending the others.
func SayFault(next http.Handler) http.Handler {
	next = middleware.Recoverer(next)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		said := middleware.NewWrapResponseWriter(w, r.ProtoMajor)
		next.ServeHTTP(said, r)
		if said.Status() == http.StatusInternalServerError && said.BytesWritten() == 0 {
			io.WriteString(said, "Something went wrong here; nothing was saved.")
		}
	})
}

// maxArchive is the largest file that is imported: a whole notebook as a zip.
// Beyond 32 MB it lies on the disk while it is read.
const maxArchive = 256 << 20

// maxPasted is the largest edit: one that pastes a long line.
const maxPasted = 2 << 20

// maxForm is the largest form that is not a file.
const maxForm = 64 << 10

// LimitBody cuts off what is longer than any form of ours.
// Reading beyond the limit is an error that fail answers with 413.
func LimitBody(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		limit := int64(maxForm)
		switch {
		case strings.HasSuffix(r.URL.Path, "/import"):
			limit = maxArchive
		case r.URL.Path == "/practice/bend", r.URL.Path == "/practice/line":
			limit = maxRecording
		case strings.HasPrefix(r.URL.Path, "/licks/") && strings.HasSuffix(r.URL.Path, "/edit"):
			limit = maxPasted
		}
		r.Body = http.MaxBytesReader(w, r.Body, limit)
		next.ServeHTTP(w, r)
	})
}

// OnlyHost answers only to this machine's own name and to the address at which a request has reached it, so that no
// other site can point its own name here. Without it, a name that first leads to that site and then to this machine
// would make its pages our own in the browser's eyes.
func OnlyHost(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		host, _, err := net.SplitHostPort(r.Host)
		if err != nil {
			host = strings.Trim(r.Host, "[]")
		}
		allowed := host == "localhost" || host == "127.0.0.1" || host == "::1"
		if here, ok := r.Context().Value(http.LocalAddrContextKey).(*net.TCPAddr); ok && !allowed {
			allowed = here.IP.Equal(net.ParseIP(host))
		}
		if !allowed {
			http.Error(w, fmt.Sprintf("Ornamen does not answer to the name %q.", host), http.StatusMisdirectedRequest)
			return
		}
		next.ServeHTTP(w, r)
	})
}

// maxRecording is how large a recording of one bend may be: a dozen seconds.
const maxRecording = 4 << 20
