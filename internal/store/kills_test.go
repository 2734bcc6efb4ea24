package store

import (
	"bufio"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"
)

// writer is one kind of thing that is written until the program is killed, and how it is found again. write does the
// n-th and returns when it is acknowledged; lost says what of the first n is not there.
type writer struct {
	write func(s *Store, path string, n int) error
	lost  func(s *Store, path string, n int) (string, error)
}

var writers = map[string]writer{
	"edits": {
		write: func(s *Store, path string, n int) error {
			e, err := s.Get(ctx, 1)
			if err == nil {
				_, err = s.Commit(ctx, 1, e.Revision, titled(fmt.Sprint(n)), "edit")
			}
			return err
		},
		lost: func(s *Store, path string, n int) (string, error) {
			e, err := s.Get(ctx, 1)
			return fewer("edit", e.Lick.Title, n), err
		},
	},
	"rounds": {
		write: func(s *Store, path string, n int) error {
			ids, err := s.Play(ctx, 1, Played{Title: "round", Missed: 1, Minutes: float64(n), At: clock()})
			if err == nil {
				_, err = s.Correct(ctx, 1, ids[0], func(p *Played) { p.Note = n })
			}
			return err
		},
		lost: func(s *Store, path string, n int) (string, error) {
			log, err := s.Log(ctx, 1)
			if err != nil || len(log) < n {
				return fmt.Sprintf("%d of %d rounds are there", len(log), n), err
			}
			for k, p := range log[:n] {
				if p.Note != k+1 || p.Minutes != float64(k+1) {
					return fmt.Sprintf("round %d is %+v", k+1, p), nil
				}
			}
			return "", nil
		},
	},
	"sets": {
		write: func(s *Store, path string, n int) error {
			x, _, err := s.SetNamed(ctx, "Week")
			if x.Name, x.Remark = "Week", fmt.Sprint(n); err == nil {
				_, err = s.SaveSet(ctx, x, x.Revision)
			}
			return err
		},
		lost: func(s *Store, path string, n int) (string, error) {
			x, _, err := s.SetNamed(ctx, "Week")
			return fewer("version", x.Remark, n), err
		},
	},
	"settings": {
		write: func(s *Store, path string, n int) error {
			return s.SaveSettings(ctx, 1, NewSettings{Data: fmt.Appendf(nil, `{"n":"%d"}`, n), Base: Newest})
		},
		lost: func(s *Store, path string, n int) (string, error) {
			x, err := s.Settings(ctx, 1)
			var v struct{ N string }
			if x.Data != nil {
				err = json.Unmarshal(x.Data, &v)
			}
			return fewer("setting", v.N, n), err
		},
	},
	"imports": {
		write: func(s *Store, path string, n int) error {
			var w Whole
			for k := range 5 {
				c := NewChain(titled(fmt.Sprintf("import %d", n)), "made", clock())
				c.Key = fmt.Sprintf("%d %d", n, k)
				w.Chains = append(w.Chains, c)
			}
			w.Players = []Playing{{Log: []Played{{LickID: 5, Title: "round", Note: n, At: clock()}}}}
			_, err := s.AddAll(ctx, w)
			return err
		},
		lost: func(s *Store, path string, n int) (string, error) {
			c, err := s.Count(ctx, Query{Find: "import"})
			log, err2 := s.Log(ctx, 1)
			if len(log) < n || c.All != 5*len(log) {
				return fmt.Sprintf("%d licks and %d lines of %d imports", c.All, len(log), n), err
			}
			return "", err2
		},
	},
	"backups": {
		write: func(s *Store, path string, n int) error {
			if _, err := s.Add(ctx, titled(fmt.Sprintf("lick %d", n)), "made"); err != nil {
				return err
			}
			return s.Backup(ctx, fmt.Sprintf("%s.copy-%d", path, n))
		},
		lost: func(s *Store, path string, n int) (string, error) {
			for k := 1; k <= n; k++ {
				b, err := OpenToRead(fmt.Sprintf("%s.copy-%d", path, k), clock)
				if err != nil {
					return "", err
				}
				c, err := b.Count(ctx, Query{Find: "lick"})
				if b.Close(); err != nil || c.All < k {
					return fmt.Sprintf("copy %d holds %d licks", k, c.All), err
				}
			}
			return "", nil
		},
	},
}

// fewer says that the last thing that was acknowledged is not there; what came after it may be.
func fewer(what, is string, n int) string {
	var at int
	if fmt.Sscan(is, &at); at < n {
		return fmt.Sprintf("%s %d was acknowledged, %q is there", what, n, is)
	}
	return ""
}

// writeForever writes one kind of thing until the program is killed, and says each number that was acknowledged.
func writeForever(path, kind string) {
	if kind == "restores" {
		restoreForever(path)
	}
	s, err := Open(path, clock)
	for n := 1; err == nil; n++ {
		if err = writers[kind].write(s, path, n); err == nil {
			fmt.Println("saved", n)
		}
	}
	fmt.Println("error", err)
	os.Exit(1)
}

// killedAfter starts this program as one that writes, kills it after so many numbers, and gives the last one that it
// said.
func killedAfter(t *testing.T, path, kind string, numbers int, later time.Duration) (last int) {
	t.Helper()
	cmd := exec.Command(os.Args[0])
	cmd.Env = append(os.Environ(), "ORNAMEN_TEST_WRITER="+path, "ORNAMEN_TEST_KIND="+kind)
	out, err := cmd.StdoutPipe()
	if err != nil {
		t.Fatal(err)
	}
	if err := cmd.Start(); err != nil {
		t.Fatal(err)
	}
	lines := bufio.NewScanner(out)
	for lines.Scan() {
		if _, err := fmt.Sscanf(lines.Text(), "saved %d", &last); err != nil {
			t.Fatalf("the writer says %q", lines.Text())
		}
		if last == numbers {
			time.AfterFunc(later, func() { cmd.Process.Kill() })
		}
	}
	cmd.Wait()
	return last
}

// kills is how often each kind is killed: sixty times in the night's run.
func kills() int {
	if os.Getenv("ORNAMEN_EXHAUSTIVE") != "" {
		return 60
	}
	return 3
}

// Killing the program at any moment loses nothing that was acknowledged, whatever was written.
func TestKilledWriter(t *testing.T) {
	for kind, w := range writers {
		t.Run(kind, func(t *testing.T) {
			t.Parallel()
			acknowledged, missing := 0, 0
			for round := range kills() {
				path := filepath.Join(t.TempDir(), "notebook.db")
				s := open(t, path)
				if _, err := s.Add(ctx, titled("0"), "made"); err != nil {
					t.Fatal(err)
				}
				s.Close()
				n := killedAfter(t, path, kind, 3+7*(round%5), time.Duration(round%7)*700*time.Microsecond)
				s = open(t, path)
				acknowledged += n
				if lost, err := w.lost(s, path, n); lost != "" || err != nil {
					t.Errorf("round %d: %s %v", round, lost, err)
					missing++
				}
				var ok string
				if err := s.db.Raw("PRAGMA integrity_check").Scan(&ok).Error; err != nil || ok != "ok" {
					t.Errorf("round %d: %s %v", round, ok, err)
				}
				s.Close()
			}
			t.Logf("%d kills of %s: %d acknowledged, lost in %d of them", kills(), kind, acknowledged, missing)
		})
	}
}

// A disk that is full at any write is said, what was acknowledged before is there, and once there is room again it goes
// on.
func TestFullDiskAtEachWrite(t *testing.T) {
	for kind, w := range writers {
		if kind == "backups" {
			continue // what they write lies in another file
		}
		t.Run(kind, func(t *testing.T) {
			path := filepath.Join(t.TempDir(), "notebook.db")
			s := open(t, path)
			if _, err := s.Add(ctx, titled("0"), "made"); err != nil {
				t.Fatal(err)
			}
			db, err := s.db.DB()
			if err != nil {
				t.Fatal(err)
			}
			db.SetMaxOpenConns(1)
			var pages int
			if err := s.db.Raw("PRAGMA page_count").Scan(&pages).Error; err != nil {
				t.Fatal(err)
			}
			room := func(pages int) {
				t.Helper()
				if err := s.db.Exec(fmt.Sprintf("PRAGMA max_page_count = %d", pages)).Error; err != nil {
					t.Fatal(err)
				}
			}
			room(pages + 2)
			n := 1
			for ; n < 5000; n++ {
				if err = w.write(s, path, n); err != nil {
					break
				}
			}
			if !errors.Is(err, ErrFull) {
				t.Fatalf("write %d: %v", n, err)
			}
			if kind == "rounds" {
				// The round may be in and its correction not: two writes, each acknowledged by itself.
				log, err := s.Log(ctx, 1)
				if err != nil || len(log) < n-1 {
					t.Errorf("%d of %d rounds are there, %v", len(log), n-1, err)
				}
				return
			}
			if lost, err := w.lost(s, path, n-1); lost != "" || err != nil {
				t.Errorf("%s %v", lost, err)
			}
			room(pages + 2000)
			if err := w.write(s, path, n); err != nil {
				t.Errorf("with room again: %v", err)
			}
			if lost, err := w.lost(s, path, n); lost != "" || err != nil {
				t.Errorf("%s %v", lost, err)
			}
		})
	}
}

// restoreForever adds a lick to the notebook and puts a backup in its place, again and again.
func restoreForever(path string) {
	var err error
	for n := 1; err == nil; n++ {
		var s *Store
		if s, err = Open(path, clock); err != nil {
			break
		}
		if _, err = s.Add(ctx, titled(fmt.Sprintf("lick-%d.", n)), "made"); err != nil {
			break
		}
		fmt.Println("saved", n)
		// The log is left as a killed program would leave it.
		unlock(s.locks)
		_, err = Restore(path+".empty", path, func() time.Time { return clock().Add(time.Duration(n) * time.Minute) })
	}
	fmt.Println("error", err)
	os.Exit(1)
}

// Killing the program while it restores leaves a notebook at its place, and every lick that was acknowledged there or
// in what is kept beside it, which opens without a log of its own.
func TestKilledRestore(t *testing.T) {
	for round := range kills() {
		dir := t.TempDir()
		path := filepath.Join(dir, "notebook.db")
		s := open(t, path)
		if err := s.Backup(ctx, path+".empty"); err != nil {
			t.Fatal(err)
		}
		s.Close()
		n := killedAfter(t, path, "restores", 1+round%4, time.Duration(round%13)*900*time.Microsecond)
		var titles string
		files, _ := filepath.Glob(path + "*")
		for _, file := range files {
			if file != path && !strings.Contains(file, "before-restore") || strings.HasSuffix(file, "-wal") ||
				strings.HasSuffix(file, "-shm") {
				continue
			}
			s, err := OpenToRead(file, clock)
			if err != nil {
				t.Fatalf("round %d: %v", round, err)
			}
			rows, err := s.List(ctx, Query{Limit: 1000})
			if err != nil {
				t.Fatalf("round %d: %v", round, err)
			}
			for _, r := range rows {
				titles += r.Title + " "
			}
			s.Close()
		}
		for k := 1; k <= n; k++ {
			if !strings.Contains(titles, fmt.Sprintf("lick-%d.", k)) {
				t.Errorf("round %d: lick %d of %d is in none of %q", round, k, n, files)
			}
		}
		open(t, path)
	}
	t.Logf("%d kills of restores, nothing lost unless said above", kills())
}
