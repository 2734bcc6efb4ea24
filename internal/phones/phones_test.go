package phones

import (
	"errors"
	"fmt"
	"net"
	"net/http"
	"net/http/httptest"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"ornamen/internal/store"
)

// Who is answered: this machine always; another one only while devices are let in, by the key of this start
// or by the cookie that it got for it, until it is forgotten. Guesses wait longer each time and are counted.
func TestPhones(t *testing.T) {
	now := time.Date(2026, 11, 29, 12, 0, 0, 0, time.UTC)
	path := filepath.Join(t.TempDir(), "n.db")
	s, err := store.Open(path, func() time.Time { return now })
	if err != nil {
		t.Fatal(err)
	}
	defer func() { s.Close() }()
	p := New(s)
	p.home = func() (net.IP, error) { return net.IPv4(192, 168, 7, 5), nil }
	p.Serve(&http.Server{}, &net.TCPAddr{IP: net.IPv4zero, Port: 8080})
	ask := func(from, address, cookie string) *http.Response {
		t.Helper()
		r := httptest.NewRequest("GET", address, nil)
		r.RemoteAddr = from
		r.Header.Set("User-Agent", "Mozilla/5.0 (Linux; Android 15)")
		if cookie != "" {
			r.AddCookie(&http.Cookie{Name: deviceCookie, Value: cookie})
		}
		w := httptest.NewRecorder()
		p.LetIn(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {})).ServeHTTP(w, r)
		return w.Result()
	}
	const phone, other, home = "192.168.7.20:5000", "192.168.7.66:5000", "127.0.0.1:5000"
	is := func(what string, res *http.Response, want int) {
		t.Helper()
		if res.StatusCode != want {
			t.Errorf("%s: %d, want %d", what, res.StatusCode, want)
		}
	}
	is("this machine", ask(home, "/", ""), 200)
	is("this machine over IPv6", ask("[::1]:5000", "/", ""), 200)
	is("another machine before", ask(phone, "/", ""), 403)
	is("a key before", ask(phone, "/pair?key=", ""), 403)
	link, err := p.Open()
	if err != nil || !strings.HasPrefix(link, "http://192.168.7.5:8080/pair?key=") {
		t.Fatalf("%s %v", link, err)
	}
	if again, _ := p.Open(); again != link {
		t.Error("opened once more it is another key")
	}
	key := link[strings.Index(link, "/pair"):]
	is("no key", ask(phone, "/", ""), 403)
	is("a made up cookie", ask(phone, "/", "abc"), 403)
	is("a wrong key", ask(other, "/pair?key=abc", ""), 403)
	is("a second one at once", ask(other, key, ""), 429)
	is("another address meanwhile", ask("192.168.7.67:1", "/pair", ""), 403)
	for k := range 12 { // an address that goes on guessing waits longer and longer, and keeps nobody else waiting
		now = now.Add(time.Hour)
		is("a guess", ask(other, fmt.Sprintf("/pair?key=%d", k), ""), 403)
	}
	now = now.Add(30 * time.Minute)
	is("after twelve guesses", ask(other, key, ""), 429)
	res := ask(phone, key, "")
	is("the key", res, 303)
	if len(res.Cookies()) != 1 || !res.Cookies()[0].HttpOnly || res.Cookies()[0].SameSite != http.SameSiteLaxMode {
		t.Fatalf("%v", res.Cookies())
	}
	token := res.Cookies()[0].Value
	is("with its cookie", ask(phone, "/licks/1", token), 200)
	is("another device with none", ask(other, "/licks/1", ""), 403)
	v, err := p.View(t.Context())
	if err != nil || len(v.Devices) != 1 || v.Devices[0].Name != "Android" || v.Wrong != 14 ||
		!strings.Contains(string(v.Code), "<svg") {
		t.Errorf("%+v %v", v.Devices, err)
	}
	if strings.Contains(string(v.Devices[0].Hash), token) {
		t.Error("the notebook holds the token itself")
	}

	// One whose request was let through before the network was shut is not let in by an empty key.
	p.Close()
	w := httptest.NewRecorder()
	r := httptest.NewRequest("GET", "/pair?key=", nil)
	r.RemoteAddr = phone
	p.pair(w, r)
	is("an empty key while it is shut", w.Result(), 403)
	if _, err := p.Open(); err != nil {
		t.Fatal(err)
	}

	// The next start has another key; a device that was let in comes back, once the network is open.
	p.Close()
	is("shut", ask(phone, "/", token), 403)
	if next, _ := p.Open(); next == link {
		t.Error("the key of the next start is the old one")
	}
	is("the old key", ask(other, key, ""), 403)
	is("remembered", ask(phone, "/", token), 200)
	if err := s.ForgetDevice(t.Context(), v.Devices[0].ID); err != nil {
		t.Fatal(err)
	}
	is("forgotten", ask(phone, "/", token), 403)
}

// Without a network there is nothing to open, which is said.
func TestNoNetwork(t *testing.T) {
	p := New(nil)
	p.Serve(&http.Server{}, &net.TCPAddr{IP: net.IPv4(127, 0, 0, 1), Port: 8080})
	p.home = func() (net.IP, error) { return nil, errors.New("no network") }
	if link, err := p.Open(); err == nil {
		t.Errorf("opened at %s", link)
	}
}
