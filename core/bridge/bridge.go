// Package bridge is the core as a page calls it: methods that take and return JSON, and the values of a frame in bulk.
// It knows nothing of browsers, so that it is tested like everything else.
package bridge

import (
	"encoding/json"
	"errors"
	"fmt"
	"runtime"
	"time"

	"wunderkammer/core/engine"
	"wunderkammer/core/format/out"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
)

// Bridge is one working copy with what its page was told of it. It is not safe for concurrent use.
type Bridge struct {
	session    *session.Session
	tracker    engine.Tracker
	watcher    engine.Watcher
	texts      int // that the page knows
	forms      forms
	rehearsing *rehearsing // nil: none is under way
	writing    out.Writing // nil: none is under way
	frame      Frame
	read       Frame
}

// answer is what every call returns: a result or an error in a sentence. Where the core broke on the way, it is of no
// use any more and has to be started anew.
type answer struct {
	Result any    `json:"result,omitempty"`
	Error  string `json:"error,omitempty"`
	Broken string `json:"broken,omitempty"`
}

// Call calls a method with its argument and returns the answer, both as JSON. It never panics.
func (b *Bridge) Call(method string, argument []byte) (text string) {
	return guarded(method, func() (any, error) {
		m, ok := methods[method]
		if !ok {
			return nil, errors.New("the core has no method " + method)
		}
		if err := scene.CheckJSON(argument); err != nil {
			return nil, err
		}
		return m.call(b, argument)
	})
}

// long is how long a call takes after which what it left behind is cleaned up at once.
const long = 500 * time.Millisecond

// guarded writes what comes of a call as an answer, whatever that is. In the one thread of a worker, what a call leaves behind is hardly
// cleaned up while it runs: after a long one, the next would begin with twice the memory, and take longer.
func guarded(method string, run func() (any, error)) (text string) {
	var a answer
	begun := time.Now()
	defer func() {
		if time.Since(begun) > long {
			runtime.GC()
		}
	}()
	defer func() {
		if p := recover(); p != nil {
			a = answer{Broken: fmt.Sprintf("%s: %v", method, p)}
		}
		out, err := json.Marshal(a)
		if err != nil {
			out, _ = json.Marshal(answer{Error: "an answer could not be written: " + err.Error()})
		}
		text = string(out)
	}()
	result, err := run()
	a.Result = result
	if err != nil {
		a.Error = err.Error()
	}
	return
}
