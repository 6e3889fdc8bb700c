// Package out writes the files that the core makes by itself, in steps, so that whoever waits can see how far it is and change
// their mind.
package out

import (
	"bytes"
	"errors"
	"fmt"
	"slices"

	"wunderkammer/core/engine"
	"wunderkammer/core/format"
	"wunderkammer/core/format/csv"
	"wunderkammer/core/format/gltf"
	"wunderkammer/core/format/lottie"
	"wunderkammer/core/format/reel"
	"wunderkammer/core/format/svg"
	"wunderkammer/core/scene"
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
	"csv": table,
	"gltf": func(p *engine.Plan, a *format.Asked) Writing {
		return &space{gltf.Record(p, a.From, a.To), gltf.Options{Tolerance: a.Tolerance}}
	},
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
		picture, truncated := svg.Frame(p.Layout.Composition, p, true)
		if truncated {
			return nil, fmt.Errorf("the picture would be larger than %d MB; export PNG", svg.MaxFrame>>20)
		}
		return picture, nil
	}}
}

// table is the values of all that moves, or of what moves of some items.
func table(p *engine.Plan, a *format.Asked) Writing {
	return &once{make: func() ([]byte, error) {
		var refs []scene.Ref
		for _, item := range p.Layout.Composition.Items {
			if len(a.Only) > 0 && !slices.Contains(a.Only, item.ID) {
				continue
			}
			for _, spec := range p.Layout.Specs(int32(p.Layout.Index(item.ID))) {
				if spec.Type != scene.Text && (p.Driven(item.ID, spec.Key) || len(item.State(spec.Key).Pins) > 0) {
					refs = append(refs, scene.Ref{Item: item.ID, Property: spec.Key})
				}
			}
		}
		if len(refs) == 0 {
			return nil, errors.New("nothing of it has links or pins, so there is no table to write")
		}
		var file bytes.Buffer
		err := csv.Write(&file, p.Layout.Composition, p, refs, a.From, a.To)
		return file.Bytes(), err
	}}
}

// space is what stands in space.
type space struct {
	*gltf.Recording
	options gltf.Options
}

func (s *space) File() ([]byte, error) { return s.Recording.File(s.options) }

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
