// Package draw makes exports that have to be drawn, by the same page that the studio draws by, in an installed Chromium
// without a window.
package draw

import (
	"context"
	"crypto/rand"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"log"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"sync/atomic"
	"time"

	"github.com/chromedp/cdproto/browser"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"

	"wunderkammer/core/format"
	"wunderkammer/core/format/media"
	"wunderkammer/core/scene"
	"wunderkammer/server"
	"wunderkammer/store"
)

// Studio is a project in a browser of its own, ready to be drawn. Close it when it is no longer used.
type Studio struct {
	Project *scene.Project
	ctx     context.Context // of the browser's page
	folder  string          // what it needs on the disk
	told    chan told       // how far the page is
	failed  chan told       // why it can't go on
	files   chan string     // what it has written
	closing []func()
	secret  string // of the addresses of parts
	parts   atomic.Pointer[[]string]
}

// told is what the page says while it draws: how far it is, or why it can't go on.
type told struct {
	Done  int    `json:"done"`
	Of    int    `json:"of"`
	Error string `json:"error"`
}

// patience is how long a page may take to be ready, and to say how far it is.
const patience = 5 * time.Minute

// Open makes a project ready to be drawn, with the pictures and sounds that it shows. The page is the front end; chromium is the
// browser, or empty for the one that is installed.
func Open(ctx context.Context, p *scene.Project, files []media.File, page fs.FS, chromium string) (s *Studio, err error) {
	path, err := Chromium(chromium)
	if err != nil {
		return nil, err
	}
	s = &Studio{Project: p, told: make(chan told, 64), failed: make(chan told, 4), files: make(chan string, 16)}
	defer func() {
		if err != nil {
			s.Close()
		}
	}()
	if s.folder, err = os.MkdirTemp("", "wunderkammer-draw-"); err != nil {
		return nil, fmt.Errorf("the folder for temporary files can't be written: %w", err)
	}
	s.closing = append(s.closing, func() { os.RemoveAll(s.folder) })
	address, password, err := s.serve(files, page)
	if err != nil {
		return nil, err
	}
	return s, s.browse(ctx, path, address, password)
}

// serve opens a door that only the browser has the key of.
func (s *Studio) serve(files []media.File, page fs.FS) (address, password string, err error) {
	st, err := store.Open(filepath.Join(s.folder, "project.db"))
	if err != nil {
		return "", "", err
	}
	s.closing = append(s.closing, func() { st.Close() })
	if err := st.Keep(files...); err != nil {
		return "", "", err
	}
	if err := st.Create(s.Project); err != nil {
		return "", "", err
	}
	listener, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", "", fmt.Errorf("no port could be opened for the browser: %w", err)
	}
	password, s.secret = rand.Text(), rand.Text()
	handler := server.New(server.Config{Store: st, FrontEnd: page, Hosts: []string{listener.Addr().String()}, Password: password})
	all := http.NewServeMux()
	all.Handle("/", handler)
	all.HandleFunc("/parts/", s.serveParts)
	srv := &http.Server{Handler: all, ReadHeaderTimeout: 10 * time.Second, ErrorLog: log.New(nothing{}, "", 0)}
	go srv.Serve(listener)
	s.closing = append(s.closing, handler.Close, func() { srv.Close() })
	return "http://" + listener.Addr().String(), password, nil
}

// nothing takes what is written and keeps none of it.
type nothing struct{}

func (nothing) Write(p []byte) (int, error) { return len(p), nil }

// browse starts the browser and waits until its page is ready.
func (s *Studio) browse(ctx context.Context, path, address, password string) error {
	scratch := filepath.Join(s.folder, "tmp") // where the browser leaves what it forgets to remove
	if err := os.Mkdir(scratch, 0o700); err != nil {
		return err
	}
	flags := append(chromedp.DefaultExecAllocatorOptions[:],
		chromedp.ExecPath(path), chromedp.UserDataDir(filepath.Join(s.folder, "browser")),
		chromedp.Env("TMPDIR="+scratch), chromedp.Flag("headless", "new"),
		chromedp.Flag("enable-unsafe-swiftshader", true), // where there is no card
		chromedp.Flag("disable-background-timer-throttling", true),
		chromedp.Flag("disable-renderer-backgrounding", true),
	)
	if !contained() {
		flags = append(flags, chromedp.NoSandbox)
	}
	allocator, end := chromedp.NewExecAllocator(ctx, flags...)
	s.closing = append(s.closing, end)
	var stop context.CancelFunc
	s.ctx, stop = chromedp.NewContext(allocator)
	s.closing = append(s.closing, stop)
	key, err := enter(address, password)
	if err != nil {
		return err
	}
	downloads := filepath.Join(s.folder, "files")
	if err := os.Mkdir(downloads, 0o700); err != nil {
		return err
	}
	if err := chromedp.Listen(s.ctx, s.hear); err != nil {
		return fmt.Errorf("the browser %s can't be started: %w", path, err)
	}
	err = chromedp.ListenBrowser(s.ctx, func(event any) {
		if e, ok := event.(*browser.EventDownloadProgress); ok && e.State == browser.DownloadProgressStateCompleted {
			s.files <- filepath.Join(downloads, e.GUID)
		}
	})
	if err != nil {
		return err
	}
	events := true
	_, err = chromedp.CallBrowser(s.ctx, browser.SetDownloadBehavior, browser.SetDownloadBehaviorParams{
		Behavior: browser.SetDownloadBehaviorBehaviorAllowAndName, DownloadPath: downloads, EventsEnabled: &events,
	})
	if err != nil {
		return err
	}
	if _, err := chromedp.Call(s.ctx, runtime.AddBinding, runtime.AddBindingParams{Name: "wunderkammerTold"}); err != nil {
		return err
	}
	if _, err := chromedp.Call(s.ctx, network.SetCookie, network.SetCookieParams{Name: key.Name, Value: key.Value, URL: address}); err != nil {
		return err
	}
	if err := chromedp.Do(s.ctx, chromedp.Navigate(address+"/draw.html")); err != nil {
		return fmt.Errorf("the page for drawing can't be opened: %w", err)
	}
	return nil
}

// enter knocks with the password, and returns the key that lets a browser in.
func enter(address, password string) (*http.Cookie, error) {
	jar, err := cookiejar.New(nil)
	if err != nil {
		return nil, err
	}
	client := http.Client{Jar: jar}
	answer, err := client.PostForm(address+"/login", url.Values{"password": {password}})
	if err != nil {
		return nil, err
	}
	answer.Body.Close()
	at, err := url.Parse(address)
	if err != nil {
		return nil, err
	}
	for _, cookie := range jar.Cookies(at) {
		return cookie, nil
	}
	return nil, errors.New("the page for drawing can't be reached")
}

// hear takes what the page says. It never waits: of how far it is, what nobody listens to is lost.
func (s *Studio) hear(event any) {
	switch e := event.(type) {
	case *runtime.EventBindingCalled:
		var t told
		if json.Unmarshal([]byte(e.Payload), &t) == nil {
			s.say(t)
		}
	case *runtime.EventExceptionThrown:
		text := e.ExceptionDetails.Text
		if x := e.ExceptionDetails.Exception; x != nil && x.Description != "" {
			text = x.Description
		}
		s.say(told{Error: "the page failed: " + text})
	}
}

func (s *Studio) say(t told) {
	into := s.told
	if t.Error != "" {
		into = s.failed
	}
	select {
	case into <- t:
	default:
	}
}

// Draw makes a file of what is asked for, which has to be settled, and returns where it is until the studio is closed. It tells
// how many of how many pictures are done.
func (s *Studio) Draw(ctx context.Context, a format.Asked, tell func(done, of int)) (file string, err error) {
	return s.ask(ctx, "wunderkammerDraw", tell, s.Project.ID, a)
}

// Join makes one moving picture of the files of its parts, in their order, and adds its sound.
func (s *Studio) Join(ctx context.Context, a format.Asked, parts []string) (file string, err error) {
	s.parts.Store(&parts)
	addresses := make([]string, len(parts))
	for k := range parts {
		addresses[k] = fmt.Sprintf("/parts/%s/%d", s.secret, k)
	}
	return s.ask(ctx, "wunderkammerJoin", func(int, int) {}, s.Project.ID, a, addresses)
}

// serveParts sends the parts that are joined, to who knows where they are.
func (s *Studio) serveParts(w http.ResponseWriter, r *http.Request) {
	number, ok := strings.CutPrefix(r.URL.Path, "/parts/"+s.secret+"/")
	n, err := strconv.Atoi(number)
	parts := s.parts.Load()
	if !ok || err != nil || parts == nil || n < 0 || n >= len(*parts) {
		http.NotFound(w, r)
		return
	}
	http.ServeFile(w, r, (*parts)[n])
}

// ask calls a function of the page, and waits for the file that it makes.
func (s *Studio) ask(ctx context.Context, call string, tell func(done, of int), arguments ...any) (file string, err error) {
	var list []string
	for _, a := range arguments {
		data, err := json.Marshal(a)
		if err != nil {
			return "", err
		}
		list = append(list, string(data))
	}
	if err := chromedp.Do(s.ctx, chromedp.Evaluate[chromedp.Void](call+"("+strings.Join(list, ", ")+")")); err != nil {
		return "", fmt.Errorf("the page for drawing does not answer: %w", err)
	}
	silence := time.NewTimer(patience)
	defer silence.Stop()
	for {
		select {
		case t := <-s.told:
			silence.Reset(patience)
			tell(t.Done, t.Of)
		case t := <-s.failed:
			return "", errors.New(t.Error)
		case file := <-s.files:
			return file, nil
		case <-silence.C:
			return "", fmt.Errorf("Chromium has said nothing for %v; try again, or a smaller size", patience)
		case <-s.ctx.Done():
			return "", errors.New("Chromium has ended before the export was done; try again, or a smaller size")
		case <-ctx.Done():
			return "", ctx.Err()
		}
	}
}

// Close ends the browser and leaves no trace.
func (s *Studio) Close() {
	for k := len(s.closing) - 1; k >= 0; k-- {
		s.closing[k]()
	}
	s.closing = nil
}
