// Package out writes the files that the core makes by itself, in steps, so that whoever waits can see how far it is and change
// their mind.
package out

import (
	"fmt"

	"wunderkammer/core/engine"
	"wunderkammer/core/format"
	"wunderkammer/core/format/lottie"
	"wunderkammer/core/format/reel"
	"wunderkammer/core/format/svg"
)

// Writing is a file that is being made.
type Writing interface {
	// Step does a part of it, and reports whether there is more to do.
	Step() (more bool, err error)
	// Done returns how many of how many steps are done.
	Done() (done, of int)
	// File returns the file; it is called once, when all steps are done.
	File() ([]byte, error)
}

// writers begin to write formats, by their keys. What is asked for is settled.
var writers = map[string]func(p *engine.Plan, a *format.Asked) Writing{
	"svg": still,
	"moving": shapes(func(r *reel.Reel, a *format.Asked) ([]byte, error) {
		return svg.Moving(r, svg.Options{Width: a.Width, Height: a.Height, Tolerance: a.Tolerance, Loop: a.Loop, Clear: a.Clear}), nil
	}),
	"lottie": shapes(func(r *reel.Reel, a *format.Asked) ([]byte, error) {
		return lottie.Write(r, lottie.Options{Width: a.Width, Height: a.Height, Tolerance: a.Tolerance, Clear: a.Clear})
	}),
}

// Begin begins to write what is asked for of the composition of a plan.
func Begin(p *engine.Plan, a format.Asked) (Writing, error) {
	if err := a.Settle(p.Layout.Composition); err != nil {
		return nil, err
	}
	begin := writers[a.Format]
	if begin == nil {
		return nil, fmt.Errorf("the format %s has to be drawn", a.Format)
	}
	return begin(p, &a), nil
}

// once is a file that is made in one step.
type once struct {
	make func() ([]byte, error)
	over bool
}

func (o *once) Step() (bool, error)   { o.over = true; return false, nil }
func (o *once) File() ([]byte, error) { return o.make() }
func (o *once) Done() (int, int) {
	if o.over {
		return 1, 1
	}
	return 0, 1
}

func still(p *engine.Plan, a *format.Asked) Writing {
	return &once{make: func() ([]byte, error) {
		p.Evaluate(float64(a.From))
		picture, truncated := svg.Frame(p.Layout.Composition, p)
		if truncated {
			return nil, fmt.Errorf("the picture would be larger than %d MB; export PNG", svg.MaxFrame>>20)
		}
		return picture, nil
	}}
}

// recorded is a file that is made of a reel.
type recorded struct {
	*reel.Recording
	write func(*reel.Reel) ([]byte, error)
}

func (r *recorded) Done() (int, int)      { return r.Recording.Done(), r.Count }
func (r *recorded) File() ([]byte, error) { return r.write(&r.Reel) }

// shapes makes a file of a reel of all frames.
func shapes(write func(*reel.Reel, *format.Asked) ([]byte, error)) func(*engine.Plan, *format.Asked) Writing {
	return func(p *engine.Plan, a *format.Asked) Writing {
		return &recorded{reel.Record(p, a.From, a.To), func(r *reel.Reel) ([]byte, error) { return write(r, a) }}
	}
}
