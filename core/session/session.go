// Package session is a working copy of a project: it applies gestures at once, remembers what the
// server has not acknowledged yet, undoes and redoes, takes in the changes of others, and keeps
// the plan of the composition that is looked at.
package session

import (
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"

	"wunderkammer/core/change"
	"wunderkammer/core/engine"
	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/poses"
	"wunderkammer/core/scene"
)

// Change is a list of operations on its way to the server or from it.
type Change struct {
	ID       string     `json:"id"`                 // made by the window that made the change
	Base     int        `json:"base"`               // the revision it was made on
	Revision int        `json:"revision,omitempty"` // the revision it made; 0 until acknowledged
	Ops      change.Ops `json:"ops"`
}

// step is a change that can be undone.
type step struct {
	ops, inverse change.Ops
	id           string // of the change that made it
}

// PastStep is a change with what takes it back, as the store has it.
type PastStep struct {
	ID      string     `json:"id"`
	Ops     change.Ops `json:"ops"`
	Inverse change.Ops `json:"inverse"`
}

// pending is a change that was applied here and is not acknowledged yet.
type pending struct {
	Change
	inverse change.Ops
}

// maxSteps bounds how far back undo reaches.
const maxSteps = 500

// Session is one working copy. It is not safe for concurrent use.
type Session struct {
	Project  *scene.Project
	Revision int // the last revision the server is known to have

	current scene.ID
	plan    *engine.Plan
	frame   float64
	newID   func() scene.ID

	waiting    []pending
	undo, redo []step
	trial      change.Ops // inverse of the preview that is applied now; nil for none
	poses      map[scene.Ref]scene.Value
	before     map[scene.Ref]scene.Value // the poses before the preview; nil for no preview of poses
	trying     bool                      // changes are tried out: applied, not sent, until they are kept or taken back
	tried      []step                    // these changes
	untried    []step                    // those that were undone while trying

	news   News
	baking *baking // of what is there now
	kept   map[any]any
}

// Keep returns what make makes, once for each key until something other than values changes.
func (s *Session) Keep(key any, make func() any) any {
	s.Plan() // which is made anew where it has to be
	if s.kept == nil {
		s.kept = map[any]any{}
	}
	if _, known := s.kept[key]; !known {
		s.kept[key] = make()
	}
	return s.kept[key]
}

// News is what changed since it was last asked for.
type News struct {
	All       bool              // everything may have changed
	Structure bool              // slots or the order of items changed
	Links     bool              // links changed, so that what drives what and the checks may be others
	Items     map[scene.ID]bool // the items whose description changed
	// States are the properties of other items whose own value or pins changed, and nothing else of them.
	States map[scene.Ref]bool
	Graphs map[scene.ID]bool // the graphs that changed, or are gone
}

func (n *News) graph(id scene.ID) {
	if n.Graphs == nil {
		n.Graphs = map[scene.ID]bool{}
	}
	n.Graphs[id] = true
}

// Open makes a working copy of a project at a revision, and applies the changes that an earlier
// copy could not bring to the server any more. Those that cannot be kept are told in dropped.
func Open(p *scene.Project, revision int, unsent []Change, newID func() scene.ID) (s *Session, dropped []string) {
	s = &Session{Project: p, Revision: revision, newID: newID, current: p.Compositions[0].ID}
	for _, c := range unsent {
		if err := s.apply(c.ID, c.Ops, false); err != nil {
			dropped = append(dropped, notKept(err))
		}
	}
	s.news.All = true
	return s, dropped
}

func notKept(err error) string {
	return "A change of yours could not be kept: " + err.Error() + "."
}

// Select makes a composition the one that is looked at.
func (s *Session) Select(id scene.ID) error {
	if s.Project.Composition(id) == nil {
		return fmt.Errorf("there is no composition with the id %q in this project", id)
	}
	s.current, s.plan, s.poses, s.baking, s.kept = id, nil, nil, nil, nil
	s.news.All = true
	return nil
}

// Composition returns the composition that is looked at; the first if that was removed.
func (s *Session) Composition() *scene.Composition {
	if c := s.Project.Composition(s.current); c != nil {
		return c
	}
	s.current, s.plan = s.Project.Compositions[0].ID, nil
	s.news.All = true
	return s.Project.Compositions[0]
}

// Plan returns the plan of the composition that is looked at, made anew if its structure changed.
func (s *Session) Plan() *engine.Plan {
	c := s.Composition()
	if s.plan == nil {
		s.kept = nil
		s.plan = engine.New(c, s.Poses()...)
		for ref, v := range s.poses {
			s.plan.Pose(ref, v)
		}
		s.plan.Evaluate(s.frame)
	}
	return s.plan
}

// Evaluate moves the playhead and returns all values there.
// A frame that lies too far off the composition is held at the nearest that does not.
func (s *Session) Evaluate(frame float64) []float64 {
	s.frame = s.Composition().Held(frame)
	return s.Plan().Evaluate(s.frame)
}

// take applies operations and notes what they touched; with care it refuses those that make links
// run in a cycle. It panics with a *change.Broken where they break off in the middle: the copy is of no use then.
func (s *Session) take(ops change.Ops, care bool) (change.Ops, error) {
	s.baking = nil
	inverse, effects, err := change.Replay(s.Project, ops)
	if err != nil {
		var broken *change.Broken
		if errors.As(err, &broken) {
			panic(broken)
		}
		return nil, err
	}
	var elsewhere []change.Effect
	for _, e := range effects {
		if e.Composition != s.current {
			elsewhere = append(elsewhere, e)
		}
	}
	cycle := s.follow(effects, care)
	if cycle == nil && care {
		err = change.Cycles(s.Project, elsewhere)
	} else if cycle != nil {
		err = cycle
	}
	if err != nil {
		s.mustTake(inverse)
		return nil, err
	}
	return inverse, nil
}

func (s *Session) touch(id scene.ID) {
	if s.news.Items == nil {
		s.news.Items = map[scene.ID]bool{}
	}
	s.news.Items[id] = true
}

// News returns what changed since the last call.
func (s *Session) News() News {
	n := s.news
	s.news = News{}
	return n
}

// Options say how a gesture is made.
type Options struct {
	Frame   int           // where the playhead is
	Preview bool          // applied until the next gesture takes its place, and never sent
	ID      string        // of the change that a gesture becomes which is no preview
	AutoPin bool          // whatever is set is pinned at the playhead
	Posing  *poses.AtStop // the stop that everything set belongs to; nil for none
}

// Do makes a gesture, and returns what came of it. After an error nothing has changed.
func (s *Session) Do(g gesture.Gesture, o Options) (gesture.Result, error) {
	s.Cancel()
	s.frame = s.Composition().Held(float64(o.Frame))
	s.baked(g)
	c := &gesture.Context{Project: s.Project.ID, Composition: s.Composition(), Planned: s.Plan(), Frame: o.Frame, NewID: s.newID, AutoPin: o.AutoPin, Recipes: s.Project.Recipes, Befores: s.Project.Befores, Others: s.Project.Compositions, Sets: s.Project.Sets}
	r, err := g.Do(c)
	if err == nil {
		r, err = poses.IntoStop(c, items.Tinted(c, r), o.Posing)
	}
	if err == nil {
		err = c.Allowed(r.Ops)
	}
	if err != nil {
		return r, err
	}
	if o.Preview {
		s.before = maps.Clone(s.poses)
		if s.before == nil {
			s.before = map[scene.Ref]scene.Value{}
		}
	}
	if len(r.Ops) == 0 {
		s.pose(r.Poses)
		return r, nil
	}
	if o.Preview || s.trying {
		back, err := s.take(r.Ops, true)
		if err != nil {
			return r, err
		}
		if o.Preview {
			s.trial = back
		} else {
			s.tried, s.untried = append(s.tried, step{ops: r.Ops, inverse: back}), nil
		}
		s.pose(r.Poses)
		return r, nil
	}
	if err := s.apply(o.ID, r.Ops, true); err != nil {
		return r, err
	}
	s.pose(r.Poses)
	last := s.waiting[len(s.waiting)-1]
	s.remember(step{last.Ops, last.inverse, last.ID})
	return r, nil
}

// pose shows driven properties at other values, or no longer.
func (s *Session) pose(poses []gesture.Pose) {
	for _, p := range poses {
		if s.poses == nil {
			s.poses = map[scene.Ref]scene.Value{}
		}
		if p.Value.Absent() {
			delete(s.poses, p.Ref)
		} else {
			s.poses[p.Ref] = p.Value
		}
		if s.plan != nil && !s.plan.Pose(p.Ref, p.Value) {
			s.plan, s.news.Structure = nil, true
		}
	}
}

// Poses lists what is posed, by item and property.
func (s *Session) Poses() []scene.Ref {
	out := slices.AppendSeq([]scene.Ref{}, maps.Keys(s.poses))
	slices.SortFunc(out, func(a, b scene.Ref) int {
		return strings.Compare(string(a.Item)+"/"+a.Property, string(b.Item)+"/"+b.Property)
	})
	return out
}

func (s *Session) dropPoses() {
	for ref := range s.poses {
		s.pose([]gesture.Pose{{Ref: ref}})
	}
}

// Cancel takes back the preview, if there is one.
func (s *Session) Cancel() {
	if s.before != nil {
		was := s.before
		s.before = nil
		for ref := range s.poses {
			if _, kept := was[ref]; !kept {
				s.pose([]gesture.Pose{{Ref: ref}})
			}
		}
		for ref, v := range was {
			s.pose([]gesture.Pose{{Ref: ref, Value: v}})
		}
	}
	if s.trial != nil {
		back := s.trial
		s.trial = nil
		s.mustTake(back)
	}
}

func (s *Session) mustTake(ops change.Ops) {
	if _, err := s.take(ops, false); err != nil {
		panic("an inverse was refused: " + err.Error())
	}
}

func (s *Session) apply(id string, ops change.Ops, care bool) error {
	inverse, err := s.take(ops, care)
	if err != nil {
		return err
	}
	s.waiting = append(s.waiting, pending{Change{ID: id, Base: s.Revision, Ops: ops}, inverse})
	return nil
}

// Waiting returns the changes that the server has not acknowledged, oldest first, each on the
// revision it can be sent with.
func (s *Session) Waiting() []Change {
	out := make([]Change, len(s.waiting))
	for i, p := range s.waiting {
		out[i] = p.Change
		out[i].Base = s.Revision + i
	}
	return out
}

// Receive takes in changes from the server, in the order of their revisions. Those that came from
// here are acknowledged; before those of others, what is waiting is taken back and made again
// on top of them. Changes of ours that could not be kept are told in dropped.
func (s *Session) Receive(changes []Change) (dropped []string, err error) {
	for _, c := range changes {
		switch {
		case c.Revision <= s.Revision:
			dropped = append(dropped, s.settle(c.ID)...)
			continue
		case c.Revision != s.Revision+1:
			return dropped, fmt.Errorf("revision %d came after %d; the changes between are missing", c.Revision, s.Revision)
		case len(s.waiting) > 0 && s.waiting[0].ID == c.ID:
			s.waiting = s.waiting[1:]
		default:
			lost, err := s.rebase(c)
			dropped = append(dropped, lost...)
			if err != nil {
				return dropped, err
			}
		}
		s.Revision = c.Revision
	}
	return dropped, nil
}

// settle takes a change that is waiting out: it turned out to be part of what this copy began with.
func (s *Session) settle(id string) (dropped []string) {
	if !slices.ContainsFunc(s.waiting, func(p pending) bool { return p.ID == id }) {
		return nil
	}
	return s.again(s.takeBack(), id)
}

func (s *Session) rebase(c Change) (dropped []string, err error) {
	mine := s.takeBack()
	if _, err := s.take(c.Ops, false); err != nil {
		return nil, fmt.Errorf("a change of another window does not fit this copy: %w", err)
	}
	return s.again(mine, c.ID), nil
}

// takeBack takes all that is waiting back, and what is there for the time being.
func (s *Session) takeBack() (mine []pending) {
	s.Cancel()
	s.springBack()
	for i := len(s.waiting) - 1; i >= 0; i-- {
		s.mustTake(s.waiting[i].inverse)
	}
	mine, s.waiting = s.waiting, nil
	return mine
}

// again makes changes again that were taken back, but for one that came to be known otherwise.
func (s *Session) again(mine []pending, but string) (dropped []string) {
	for _, p := range mine {
		if p.ID == but {
			continue
		}
		if err := s.apply(p.ID, p.Ops, true); err != nil {
			dropped = append(dropped, notKept(err))
		}
	}
	tried := s.tried
	s.tried, s.untried = nil, nil
	for _, t := range tried {
		back, err := s.take(t.ops, true)
		if err != nil {
			dropped = append(dropped, notKept(err))
			continue
		}
		s.tried = append(s.tried, step{ops: t.ops, inverse: back})
	}
	return dropped
}
