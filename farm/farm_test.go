package farm

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"wunderkammer/core/format"
)

// hand is a drawer that writes what it is asked for into a file.
type hand struct {
	folder string
	before func(ctx context.Context, a format.Asked) error // nil: it works at once

	mu   sync.Mutex
	made []int // the first picture of each part
}

func (h *hand) Draw(ctx context.Context, _ string, packed func() ([]byte, error), a format.Asked, tell func(done, of int)) (string, error) {
	if h.before != nil {
		if err := h.before(ctx, a); err != nil {
			return "", err
		}
	}
	data, err := packed()
	if err != nil {
		return "", err
	}
	tell(a.Part.Count, a.Part.Count)
	h.mu.Lock()
	h.made = append(h.made, a.Part.First)
	file := filepath.Join(h.folder, fmt.Sprint(len(h.made)))
	h.mu.Unlock()
	return file, os.WriteFile(file, fmt.Appendf(nil, "%s %d+%d", data, a.Part.First, a.Part.Count), 0o600)
}

// parts are what it has made.
func (h *hand) parts() []int {
	h.mu.Lock()
	defer h.mu.Unlock()
	return slices.Clone(h.made)
}

func init() { silence, beat = 900*time.Millisecond, 200*time.Millisecond }

// field is a queue inside.
func field(t *testing.T) *Queue {
	q, err := Inside(t.Context(), t.TempDir(), "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(q.Close)
	return q
}

// hire lets a hand work, over a connection of its own, until it is fired.
func hire(t *testing.T, q *Queue, h *hand) (fire func()) {
	h.folder = t.TempDir()
	mine, err := Outside(t.Context(), q.Address())
	if err != nil {
		t.Fatal(err)
	}
	ctx, stop := context.WithCancel(t.Context())
	done := make(chan struct{})
	go func() {
		mine.Work(ctx, h, func(string) {})
		close(done)
	}()
	fire = sync.OnceFunc(func() {
		stop()
		<-done
		mine.Close()
	})
	t.Cleanup(fire)
	return fire
}

// begin runs the job beside the test.
func begin(t *testing.T, q *Queue) <-chan []string {
	done := make(chan []string)
	go func() {
		files, err := q.Run(t.Context(), job, t.TempDir(), func(Progress) {})
		if err != nil {
			t.Error(err)
		}
		done <- files
	}()
	return done
}

var job = Job{Package: []byte("harbour"), Asked: format.Asked{Format: "mp4", To: 76}, Pictures: 77, Each: 10}

func read(t *testing.T, files []string) (all []string) {
	for _, file := range files {
		data, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		all = append(all, string(data))
	}
	return all
}

func TestPartsAreSharedAndComeBackInTheirOrder(t *testing.T) {
	q := field(t)
	slow := func(context.Context, format.Asked) error { time.Sleep(20 * time.Millisecond); return nil }
	one, two := &hand{before: slow}, &hand{before: slow}
	hire(t, q, one)
	hire(t, q, two)
	var at atomic.Pointer[Progress]
	files, err := q.Run(t.Context(), job, t.TempDir(), func(p Progress) { at.Store(&p) })
	if err != nil {
		t.Fatal(err)
	}
	got := read(t, files)
	if len(got) != 8 || got[0] != "harbour 0+10" || got[6] != "harbour 60+10" || got[7] != "harbour 70+7" {
		t.Errorf("%q", got)
	}
	if len(one.parts()) == 0 || len(two.parts()) == 0 || len(one.parts())+len(two.parts()) != 8 {
		t.Errorf("one made %v, the other %v", one.parts(), two.parts())
	}
	time.Sleep(50 * time.Millisecond) // what was said last is told
	last := *at.Load()
	if last.Of != 77 || last.Done < 60 || last.Workers != 2 {
		t.Errorf("%+v", last)
	}
	if info, err := q.parts.Info(t.Context()); err != nil || info.State.Msgs != 0 {
		t.Errorf("%v parts are left, %v", info.State.Msgs, err)
	}
}

func TestAPartWhoseWorkerIsGoneGoesToAnother(t *testing.T) {
	q := field(t)
	begun := make(chan struct{}, 8)
	hangs := &hand{before: func(ctx context.Context, _ format.Asked) error {
		begun <- struct{}{}
		<-ctx.Done()
		return ctx.Err()
	}}
	fire := hire(t, q, hangs)
	done := begin(t, q)
	<-begun
	helps := &hand{}
	hire(t, q, helps)
	fire()
	if got := read(t, <-done); len(got) != 8 || got[0] != "harbour 0+10" || len(helps.parts()) != 8 {
		t.Errorf("%q by %v", got, helps.parts())
	}
}

func TestAPartThatNobodyAnswersForGoesToAnother(t *testing.T) {
	q := field(t)
	begun := make(chan struct{}, 8)
	dead := make(chan struct{})
	t.Cleanup(func() { close(dead) })
	mute := &hand{folder: t.TempDir(), before: func(context.Context, format.Asked) error {
		begun <- struct{}{}
		<-dead
		return errors.New("dead")
	}}
	gone, err := Outside(t.Context(), q.Address())
	if err != nil {
		t.Fatal(err)
	}
	go gone.Work(t.Context(), mute, func(string) {})
	done := begin(t, q)
	<-begun
	gone.conn.Close() // as if the machine had gone
	helps := &hand{}
	hire(t, q, helps)
	if got := read(t, <-done); len(got) != 8 || got[0] != "harbour 0+10" {
		t.Errorf("%q", got)
	}
}

func TestAPartThatFailsEverywhereFailsTheJob(t *testing.T) {
	q := field(t)
	var mu sync.Mutex
	tried := 0
	hire(t, q, &hand{before: func(_ context.Context, a format.Asked) error {
		if a.Part.First != 30 {
			return nil
		}
		mu.Lock()
		defer mu.Unlock()
		tried++
		return errors.New("this browser can't encode it")
	}})
	_, err := q.Run(t.Context(), job, t.TempDir(), func(Progress) {})
	if err == nil || !strings.Contains(err.Error(), "can't encode it") || tried != tries {
		t.Errorf("%v after %d tries", err, tried)
	}
	if info, err := q.parts.Info(t.Context()); err != nil || info.State.Msgs > 1 {
		t.Errorf("%v parts are left, %v", info.State.Msgs, err)
	}
}

func TestWhatIsCancelledIsTakenBackFromEveryone(t *testing.T) {
	q := field(t)
	begun, ended := make(chan struct{}, 8), make(chan struct{}, 8)
	hire(t, q, &hand{before: func(ctx context.Context, _ format.Asked) error {
		begun <- struct{}{}
		<-ctx.Done()
		ended <- struct{}{}
		return ctx.Err()
	}})
	ctx, stop := context.WithCancel(t.Context())
	failed := make(chan error)
	go func() {
		_, err := q.Run(ctx, job, t.TempDir(), func(Progress) {})
		failed <- err
	}()
	<-begun
	stop()
	if err := <-failed; !errors.Is(err, context.Canceled) {
		t.Error(err)
	}
	select {
	case <-ended:
	case <-time.After(5 * time.Second):
		t.Fatal("the worker goes on")
	}
	time.Sleep(100 * time.Millisecond)
	select {
	case <-begun:
		t.Error("another part was begun")
	default:
	}
}

func TestWhatWasMadeAlreadyIsNotMadeAgain(t *testing.T) {
	q := field(t)
	id, err := job.id()
	if err != nil {
		t.Fatal(err)
	}
	if _, err := q.results.PutBytes(t.Context(), (&part{Job: id, Number: 3}).name(), []byte("made before")); err != nil {
		t.Fatal(err)
	}
	h := &hand{}
	hire(t, q, h)
	files, err := q.Run(t.Context(), job, t.TempDir(), func(Progress) {})
	if err != nil {
		t.Fatal(err)
	}
	if got := read(t, files); got[3] != "made before" || len(h.parts()) != 7 {
		t.Errorf("%q by %v", got, h.parts())
	}
	if other, _ := (&Job{Package: []byte("another"), Asked: job.Asked, Pictures: 77, Each: 10}).id(); other == id {
		t.Error("two jobs are called alike")
	}
}

func TestAQueueThatCanNotBeReachedIsSaid(t *testing.T) {
	for says, open := range map[string]func() (*Queue, error){
		"can't be reached":            func() (*Queue, error) { return Outside(t.Context(), "nats://127.0.0.1:1") },
		"needs an address and a port": func() (*Queue, error) { return Inside(t.Context(), t.TempDir(), "farm") },
		"is not a port":               func() (*Queue, error) { return Inside(t.Context(), t.TempDir(), "127.0.0.1:x") },
	} {
		if _, err := open(); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%q: %v", says, err)
		}
	}
}
