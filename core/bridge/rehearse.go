package bridge

import (
	"errors"
	"iter"

	"wunderkammer/core/engine"
	"wunderkammer/core/format/svg"
	"wunderkammer/core/rehearse"
	"wunderkammer/core/session"
)

// RehearseAsk begins a rehearsal, or goes on with the one that is under way for some more moments.
type RehearseAsk struct {
	Begin   *rehearse.Options `json:"begin"`
	Moments int               `json:"moments"` // at most so many at a time, so that the page is answered in between
}

// Rehearsed is how far a rehearsal has come, and what it has found so far, the gravest first.
type Rehearsed struct {
	rehearse.Progress
	Over  bool               `json:"over"`
	Found []rehearse.Finding `json:"found" ts:"list"`
}

// rehearsing is a rehearsal that is under way.
type rehearsing struct {
	*rehearse.Rehearsal
	next func() (rehearse.Progress, bool)
	stop func()
	last Rehearsed
}

// rehearse works a rehearsal out a piece further. Whatever changes the project meanwhile does not matter to it.
func (b *Bridge) rehearse(a RehearseAsk) (Rehearsed, error) {
	if b.session == nil {
		return Rehearsed{}, errors.New("no project is open")
	}
	if a.Begin != nil {
		b.endRehearsal()
		r := rehearse.New(b.session.Composition(), *a.Begin)
		one := &rehearsing{Rehearsal: r}
		one.next, one.stop = iter.Pull(r.Run())
		b.rehearsing = one
	}
	one := b.rehearsing
	if one == nil {
		return Rehearsed{Over: true, Found: []rehearse.Finding{}}, nil
	}
	for range max(1, a.Moments) {
		at, more := one.next()
		if !more {
			one.last.Over = true
			break
		}
		one.last.Progress = at
	}
	out := one.last
	if out.Found = append([]rehearse.Finding{}, one.Found()...); out.Over {
		b.endRehearsal()
	}
	return out, nil
}

func (b *Bridge) endRehearsal() {
	if b.rehearsing != nil {
		b.rehearsing.stop()
		b.rehearsing = nil
	}
}

// MomentAsk asks for a picture of the composition with some controls set.
type MomentAsk struct {
	Frame    int                `json:"frame"`
	Settings []rehearse.Setting `json:"settings"`
}

// moment draws a picture, without touching the document.
func moment(s *session.Session, a MomentAsk) (string, error) {
	c := s.Composition().Clone()
	for _, one := range a.Settings {
		item := c.Item(one.Ref.Item)
		if item == nil {
			continue
		}
		if spec := item.Spec(one.Ref.Property); spec == nil || spec.ReadOnly || one.Value.Fits(spec.Type) != nil {
			continue
		}
		state := item.Edit(one.Ref.Property)
		state.Own, state.Pins = one.Value, nil
	}
	plan := engine.New(c)
	plan.Evaluate(c.Held(float64(a.Frame)))
	picture, _ := svg.Frame(c, plan, false) // as much of it as there is room for
	return string(picture), nil
}
