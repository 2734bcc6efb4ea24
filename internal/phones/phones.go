// Package phones lets other devices of the house use the notebook, by a key that the player shows and a cookie that
// the device keeps. Everything else gets one sentence.
package phones

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"crypto/subtle"
	"crypto/tls"
	"errors"
	"fmt"
	"html/template"
	"log"
	"net"
	"net/http"
	"strings"
	"sync"
	"time"

	"github.com/boombuler/barcode/qr"

	"ornamen/internal/store"
)

// Phones lets other devices of the house in. Without it nothing but this machine itself is answered, whatever address
// Ornamen listens on. Open makes a key that holds until Close or the next start; a device that shows it is remembered
// by a cookie, and everything else is refused with one sentence. It is safe for concurrent use.
type Phones struct {
	store *store.Store

	mu     sync.Mutex
	key    string // empty while nobody is let in
	addr   string // HOST:PORT that the devices reach
	cert   *tls.Certificate
	wrong  int                      // keys that were guessed since the key was made
	tries  map[string]guessing      // by address
	serve  func(net.Listener) error // how a second listener is served
	main   net.Addr
	home   func() (net.IP, error) // the address that the machine has in its network
	second net.Listener
}

// guessing is what wrong keys an address has shown: how many, and until when it is not listened to.
type guessing struct {
	wrong int
	until time.Time
}

// New lets nobody in yet.
func New(s *store.Store) *Phones {
	return &Phones{store: s, tries: map[string]guessing{}, home: homeAddress}
}

// UseCertificate has devices served over TLS, which the microphone of a browser asks for. It is called before Open.
func (p *Phones) UseCertificate(c tls.Certificate) {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.cert = &c
}

// Serve tells which server answers, and where it listens already.
func (p *Phones) Serve(srv *http.Server, at net.Addr) {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.main, p.serve = at, srv.Serve
}

// Open lets devices in by a key: it listens on the address that this machine has in its network, and gives the link
// that a device opens. Opened once more it is the same key. The error is a sentence: that there is no network, say.
func (p *Phones) Open() (link string, err error) {
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.key != "" {
		return p.link(), nil
	}
	if p.serve == nil {
		return "", errors.New("the notebook is not open yet")
	}
	here, err := p.home()
	if err != nil {
		return "", err
	}
	main, ok := p.main.(*net.TCPAddr)
	if !ok {
		return "", errors.New("the notebook is not open on a network address")
	}
	if !main.IP.IsUnspecified() && !main.IP.Equal(here) {
		ln, err := net.Listen("tcp", net.JoinHostPort(here.String(), fmt.Sprint(main.Port)))
		if err != nil { // the port is taken there
			ln, err = net.Listen("tcp", net.JoinHostPort(here.String(), "0"))
		}
		if err != nil {
			return "", fmt.Errorf("the address %s cannot be opened", here)
		}
		p.second = ln
		main = ln.Addr().(*net.TCPAddr)
		if p.cert != nil {
			ln = tls.NewListener(ln,
				&tls.Config{Certificates: []tls.Certificate{*p.cert}, MinVersion: tls.VersionTLS12})
		}
		serve := p.serve
		go func() {
			if err := serve(ln); err != nil && !errors.Is(err, http.ErrServerClosed) && !errors.Is(err, net.ErrClosed) {
				log.Printf("serving devices: %v", err)
			}
		}()
	} else if p.cert != nil {
		return "", errors.New("with a certificate Ornamen opens the network by itself: leave --addr as it is")
	}
	p.addr = net.JoinHostPort(here.String(), fmt.Sprint(main.Port))
	p.key, p.wrong = randomWord(10), 0
	clear(p.tries)
	return p.link(), nil
}

// Close shuts the network out again; devices that are remembered may come back when it is opened.
func (p *Phones) Close() {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.key = ""
	if p.second != nil {
		p.second.Close()
		p.second = nil
	}
}

// link is what a device opens.
func (p *Phones) link() string {
	scheme := "http"
	if p.cert != nil {
		scheme = "https"
	}
	return fmt.Sprintf("%s://%s/pair?key=%s", scheme, p.addr, p.key)
}

// View is what the screen of the player shows of them.
type View struct {
	Link    string // empty while nobody is let in
	Code    template.HTML
	Secure  bool // over TLS
	Wrong   int  // keys that were guessed
	Devices []store.Device
}

// View is what the player sees. The link and what can be done about devices are for this machine alone.
func (p *Phones) View(ctx context.Context) (v View, err error) {
	p.mu.Lock()
	if p.key != "" {
		v.Link, v.Secure, v.Wrong = p.link(), p.cert != nil, p.wrong
	}
	p.mu.Unlock()
	if v.Link != "" {
		if v.Code, err = codeOf(v.Link); err != nil {
			return v, err
		}
	}
	v.Devices, err = p.store.Devices(ctx)
	return v, err
}

// deviceCookie is the cookie by which a device is known.
const deviceCookie = "ornamen-device"

// LetIn answers this machine, and what shows a key or is remembered; everything else gets one sentence.
func (p *Phones) LetIn(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if FromHere(r) {
			next.ServeHTTP(w, r)
			return
		}
		p.mu.Lock()
		open := p.key != ""
		p.mu.Unlock()
		switch {
		case !open:
			http.Error(w, "This notebook is open on its own machine alone. Player has a button there that lets a phone in.",
				http.StatusForbidden)
		case r.URL.Path == "/pair" && r.Method == http.MethodGet:
			p.pair(w, r)
		case p.remembered(r):
			next.ServeHTTP(w, r)
		default:
			http.Error(w, "This device is not let in yet: open the link or the code that Player shows on "+
				"the notebook’s own machine.", http.StatusForbidden)
		}
	})
}

// FromHere says whether a request comes from this machine itself.
func FromHere(r *http.Request) bool {
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	return err == nil && net.ParseIP(host).IsLoopback()
}

// remembered says whether a request shows the cookie of a device that was let in.
func (p *Phones) remembered(r *http.Request) bool {
	c, err := r.Cookie(deviceCookie)
	if err != nil || len(c.Value) > 128 {
		return false
	}
	d, err := p.store.DeviceOf(r.Context(), hashed(c.Value))
	if err != nil {
		return false
	}
	if p.store.Now().Sub(d.SeenAt) > time.Hour {
		if err := p.store.SeenDevice(r.Context(), d.ID); err != nil {
			log.Printf("a device was seen: %v", err)
		}
	}
	return true
}

// pair lets a device in that shows the key. A wrong key shuts its address out for a while, twice as long each
// time, so that guessing 50 bits is hopeless; what others guess does not keep an honest phone waiting.
func (p *Phones) pair(w http.ResponseWriter, r *http.Request) {
	host, _, _ := net.SplitHostPort(r.RemoteAddr)
	now := p.store.Now()
	p.mu.Lock()
	try := p.tries[host]
	if until := try.until; now.Before(until) {
		p.mu.Unlock()
		w.Header().Set("Retry-After", fmt.Sprint(int(until.Sub(now).Seconds())+1))
		http.Error(w, "That was a wrong key; wait a little before the next one.", http.StatusTooManyRequests)
		return
	}
	// The network may have been shut since the request was let through to here: then no key fits, and no empty one.
	if p.key == "" || subtle.ConstantTimeCompare([]byte(r.URL.Query().Get("key")), []byte(p.key)) != 1 {
		p.wrong++
		if len(p.tries) > 1000 {
			clear(p.tries)
		}
		try.wrong++
		try.until = now.Add(min(time.Hour, time.Second<<min(try.wrong, 12)))
		p.tries[host] = try
		p.mu.Unlock()
		http.Error(w, "That key does not open this notebook. Player shows the one that does.", http.StatusForbidden)
		return
	}
	secure := p.cert != nil
	p.mu.Unlock()
	token := randomWord(40)
	if err := p.store.AddDevice(r.Context(), deviceName(r.UserAgent()), hashed(token)); err != nil {
		log.Printf("a device was not let in: %v", err)
		http.Error(w, "The notebook cannot be written just now; try again.", http.StatusServiceUnavailable)
		return
	}
	http.SetCookie(w, &http.Cookie{Name: deviceCookie, Value: token, Path: "/", MaxAge: 400 * 24 * 3600, HttpOnly: true,
		Secure: secure, SameSite: http.SameSiteLaxMode})
	http.Redirect(w, r, "/", http.StatusSeeOther)
}

// hashed is what the notebook keeps of a token.
func hashed(token string) []byte {
	h := sha256.Sum256([]byte(token))
	return h[:]
}

// randomWord is so many letters that nobody guesses, five bits each.
func randomWord(letters int) string {
	const alphabet = "abcdefghijkmnpqrstuvwxyz23456789"
	b := make([]byte, letters)
	rand.Read(b) // never fails
	for i := range b {
		b[i] = alphabet[b[i]%32]
	}
	return string(b)
}

// deviceName is what a browser says of its device, in a word or two.
func deviceName(agent string) string {
	for _, name := range []string{"iPhone", "iPad", "Android", "Windows", "Macintosh", "Linux"} {
		if strings.Contains(agent, name) {
			return strings.TrimSuffix(name, "intosh")
		}
	}
	return "a device"
}

// homeAddress is the address that this machine has in its own network.
func homeAddress() (net.IP, error) {
	addrs, err := net.InterfaceAddrs()
	if err != nil {
		return nil, errors.New("the addresses of this machine cannot be read")
	}
	for _, a := range addrs {
		if n, ok := a.(*net.IPNet); ok && n.IP.To4() != nil && n.IP.IsPrivate() {
			return n.IP, nil
		}
	}
	return nil, errors.New("this machine is in no network of its own: connect it to the one that the phone is in")
}

// codeOf draws a link as a QR code (ISO/IEC 18004), quiet zone included.
func codeOf(link string) (template.HTML, error) {
	code, err := qr.Encode(link, qr.M, qr.Auto)
	if err != nil {
		return "", fmt.Errorf("draw the code: %w", err)
	}
	const quiet = 4
	n := code.Bounds().Dx()
	var b strings.Builder
	fmt.Fprintf(&b, `<svg class="qrcode" viewBox="0 0 %[1]d %[1]d" role="img" aria-label="The link as a code for the `+
		`camera"><path d="M0 0h%[1]dv%[1]dH0z" fill="#fff"/><path d="`, n+2*quiet)
	for y := range n {
		for x := range n {
			if r, _, _, _ := code.At(x, y).RGBA(); r == 0 {
				fmt.Fprintf(&b, "M%d %dh1v1h-1z", x+quiet, y+quiet)
			}
		}
	}
	b.WriteString(`"/></svg>`)
	return template.HTML(b.String()), nil
}
