package server

import (
	_ "embed"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"math"
	"net/http"
	"strconv"
	"time"

	"github.com/gin-gonic/gin"

	"wunderkammer/core/ask"
	"wunderkammer/core/change"
	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/store"
)

// What scripts ask for: they name things as formulas do, and know nothing of operations.

// description is the description of the API, which is written from Routes.
//
//go:embed openapi.json
var description []byte

func (s *Server) describe(g *gin.Context) { g.Data(http.StatusOK, "application/json", description) }

// ListedComposition is a composition in a list.
type ListedComposition struct {
	ID       scene.ID `json:"id"`
	Name     string   `json:"name"`
	Width    int      `json:"width"` // pixels
	Height   int      `json:"height"`
	Rate     int      `json:"rate"` // frames a second
	Frames   int      `json:"frames"`
	Reading  scene.ID `json:"reading,omitempty"`  // the composition that it is a reading of
	HandsOff bool     `json:"handsOff,omitempty"` // controls
}

func (s *Server) compositions(g *gin.Context) {
	s.with(g, func(d *document) { g.JSON(http.StatusOK, d.snapshot().listed()) })
}

// errSlow is returned for values that took too long.
var errSlow = errors.New("it takes too long to work out; see the problems of the composition for what is slow, or ask for fewer frames")

// looked is what a script looks at: a composition that nobody else has.
type looked struct {
	project     *scene.Project
	composition *scene.Composition
	revision    int
}

// look calls with a composition of a document, or answers that it isn't there.
func (s *Server) look(g *gin.Context, name string, f func(at looked)) {
	s.with(g, func(d *document) {
		snap := d.snapshot()
		p := snap.copied()
		c, err := ask.Composition(p, name)
		if err != nil {
			fail(g, http.StatusNotFound, sentence(err))
			return
		}
		f(looked{p, c, snap.revision})
	})
}

// refusal is what is wrong with what a script asks for.
type refusal struct{ error }

// work works something out on plans of a composition at a frame, as it is when each is made, bounded like a picture that is drawn; where
// it can't, that is answered.
func work[T any](s *Server, g *gin.Context, c *scene.Composition, frame float64, f func(plan func() *engine.Plan) (T, error)) (out T, ok bool) {
	release, err := s.drawer()
	if err == nil {
		out, err = bounded(release, errSlow, "the values can't be worked out", func(stop func() bool) (T, error) {
			return f(func() *engine.Plan {
				plan := engine.Stoppable(c, stop)
				plan.Evaluate(frame)
				return plan
			})
		})
	}
	var no refusal
	switch {
	case errors.As(err, &no):
		fail(g, http.StatusUnprocessableEntity, sentence(err))
	case err != nil:
		fail(g, http.StatusServiceUnavailable, sentence(err))
	}
	return out, err == nil
}

// number returns a number of the query; where it is none, that is answered.
func number(g *gin.Context, name string, absent float64) (x float64, ok bool) {
	text := g.Query(name)
	if text == "" {
		return absent, true
	}
	x, err := strconv.ParseFloat(text, 64)
	if err != nil || math.IsNaN(x) || math.IsInf(x, 0) {
		fail(g, http.StatusBadRequest, fmt.Sprintf("The value of ?%s= is not a number.", name))
		return 0, false
	}
	return x, true
}

func (s *Server) controls(g *gin.Context) {
	frame, ok := number(g, "frame", 0)
	if !ok {
		return
	}
	s.look(g, g.Query("composition"), func(at looked) {
		if err := ask.Within(at.composition, frame); err != nil {
			fail(g, http.StatusBadRequest, sentence(err))
			return
		}
		if all, ok := work(s, g, at.composition, frame, func(plan func() *engine.Plan) ([]ask.ControlValue, error) {
			return ask.Controls(plan()), nil
		}); ok {
			g.JSON(http.StatusOK, all)
		}
	})
}

// ControlsSet are controls, or other properties, with the values that they get.
type ControlsSet struct {
	ID          string                 `json:"id,omitempty"`          // of the change: the same one sent twice is made once; empty: a new one each time
	Composition string                 `json:"composition,omitempty"` // its name or id, or that of a reading; empty: the first
	Frame       int                    `json:"frame,omitempty"`       // where pins are set, of what is pinned
	Values      map[string]scene.Value `json:"values"`                // by `Owner: control`, or the control alone where no other has its name
}

// SetControls says what came of setting controls.
type SetControls struct {
	Revision int                `json:"revision"`
	Controls []ask.ControlValue `json:"controls"` // all of the composition, as they are then, at the frame
}

// settings bounds how often a script is tried again because others came first.
const settings = 20

func (s *Server) setControls(g *gin.Context) {
	var sent ControlsSet
	if !readJSON(g, &sent) {
		return
	}
	if len(sent.ID) > 64 {
		fail(g, http.StatusBadRequest, "The id of a change has at most 64 characters.")
		return
	}
	if sent.ID == "" {
		sent.ID = string(store.NewID())
	}
	for range settings {
		if !s.setOnce(g, sent) {
			return
		}
	}
	fail(g, http.StatusServiceUnavailable, "Others change the project all the time. Try again.")
}

// setOnce sets controls and answers; true where nothing was done because others came first.
func (s *Server) setOnce(g *gin.Context, sent ControlsSet) (again bool) {
	s.look(g, sent.Composition, func(at looked) {
		known, err := s.store.RevisionOf(g.Param("id"), sent.ID)
		if err != nil {
			failStored(g, err)
			return
		}
		if err := ask.Within(at.composition, float64(sent.Frame)); err != nil {
			fail(g, http.StatusUnprocessableEntity, sentence(err))
			return
		}
		type set struct {
			ops   change.Ops
			after []ask.ControlValue
		}
		made, ok := work(s, g, at.composition, float64(sent.Frame), func(plan func() *engine.Plan) (made set, err error) {
			if known == 0 {
				c := &gesture.Context{Project: at.project.ID, Composition: at.composition, Planned: plan(), Frame: sent.Frame, NewID: store.NewID, Others: at.project.Compositions}
				if made.ops, err = ask.Set(c, sent.Values); err == nil {
					_, _, err = change.Apply(at.project, made.ops)
				}
				if err != nil {
					return made, refusal{err}
				}
			}
			made.after = ask.Controls(plan())
			return made, nil
		})
		if !ok {
			return
		}
		if known == 0 {
			known, err = s.library.apply(g.Param("id"), session.Change{ID: sent.ID, Base: at.revision, Ops: made.ops})
			var late *outdated
			if again = errors.As(err, &late); again {
				return
			}
			if err != nil {
				answerApplied(g, 0, err)
				return
			}
		}
		g.JSON(http.StatusOK, SetControls{known, made.after})
	})
	return again
}

// ValuesAt are the values of properties and formulas at frames.
type ValuesAt struct {
	Composition scene.ID     `json:"composition"`
	Frames      []float64    `json:"frames"`
	Values      []ValuesOver `json:"values"`
}

// ValuesOver are the values of a property or a formula, one for each frame.
type ValuesOver struct {
	Name   string        `json:"name"`
	Type   scene.Type    `json:"type"`
	Unit   scene.Unit    `json:"unit,omitempty"`
	Values []scene.Value `json:"values"` // null where there is none
}

// Bounds of what is asked for at once.
const (
	maxFramesAsked = 1000
	maxValuesAsked = 100_000
)

// framesAsked returns the frames of a query; where they are wrong, that is answered.
func framesAsked(g *gin.Context) (frames []float64, ok bool) {
	from, ok1 := number(g, "from", 0)
	if !ok1 {
		return nil, false
	}
	to, ok2 := number(g, "to", from)
	if !ok2 {
		return nil, false
	}
	step, ok3 := number(g, "step", 1)
	if !ok3 {
		return nil, false
	}
	if step <= 0 || to < from {
		fail(g, http.StatusBadRequest, "The frames go from ?from= to ?to=, which is not before it, by ?step=, which is above 0.")
		return nil, false
	}
	n := math.Floor((to-from)/step) + 1
	if n > maxFramesAsked {
		fail(g, http.StatusBadRequest, fmt.Sprintf("%.0f frames are too many for one request; ask for at most %d, and for the rest in further requests.", n, maxFramesAsked))
		return nil, false
	}
	for k := range int(n) {
		frames = append(frames, from+float64(float64(k)*step))
	}
	return frames, true
}

func (s *Server) values(g *gin.Context) {
	frames, ok := framesAsked(g)
	if !ok {
		return
	}
	names := g.QueryArray("name")
	if len(names) == 0 {
		fail(g, http.StatusBadRequest, "Name what is asked for: ?name=Owner: property, again for each.")
		return
	}
	s.look(g, g.Query("composition"), func(at looked) {
		if err := ask.Within(at.composition, frames...); err != nil {
			fail(g, http.StatusBadRequest, sentence(err))
			return
		}
		if all, ok := work(s, g, at.composition, frames[0], func(plan func() *engine.Plan) ([]ValuesOver, error) { return valuesOver(plan(), names, frames) }); ok {
			g.JSON(http.StatusOK, ValuesAt{at.composition.ID, frames, all})
		}
	})
}

// valuesOver works out what names ask for, at frames.
func valuesOver(plan *engine.Plan, names []string, frames []float64) ([]ValuesOver, error) {
	shown := ask.Shown(plan, names, frames)
	var questions []ask.Question
	for _, name := range names {
		more, err := ask.All(plan, name, shown)
		if err != nil {
			return nil, refusal{err}
		}
		if questions = append(questions, more...); len(questions)*len(frames) > maxValuesAsked {
			return nil, refusal{fmt.Errorf("%d values at %d frames are too many for one request; ask for at most %d, and for the rest in further requests", len(questions), len(frames), maxValuesAsked)}
		}
	}
	out := make([]ValuesOver, len(questions))
	for k, values := range ask.Over(plan, questions, frames) {
		out[k] = ValuesOver{questions[k].Name, questions[k].Type, questions[k].Unit, values}
	}
	return out, nil
}

// events sends every change from a revision on as server-sent events, as it is made.
func (s *Server) events(g *gin.Context) {
	since, ok := sinceAsked(g, g.GetHeader("Last-Event-ID"))
	if !ok {
		return
	}
	s.with(g, func(d *document) {
		line, ok := s.following(g, d, since)
		if !ok {
			return
		}
		defer line.stop()
		g.Header("Content-Type", "text/event-stream")
		g.Header("Cache-Control", "no-store")
		g.Header("X-Accel-Buffering", "no") // a proxy is not to wait for more
		out := http.NewResponseController(g.Writer)
		out.SetReadDeadline(time.Time{})
		send := func(text string) bool { // a client that does not read is cut off, and connects again
			out.SetWriteDeadline(time.Now().Add(writingTime))
			_, err := io.WriteString(g.Writer, text)
			return err == nil && out.Flush() == nil
		}
		if !send(": follows\n\n") {
			return
		}
		line.tell(either(g.Request.Context().Done(), s.closed), func(c session.Change) bool {
			data, err := json.Marshal(c)
			return err == nil && send(fmt.Sprintf("id: %d\nevent: change\ndata: %s\n\n", c.Revision, data))
		}, func() bool { return send(":\n\n") })
	})
}
