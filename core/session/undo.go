package session

import (
	"fmt"
	"slices"
	"strings"

	"wunderkammer/core/change"
)

// Recall gives a working copy that was just opened the steps back that an earlier one had: those that can be undone and
// those that can be made again, the last one last, by the ids of the changes that made them. A step that is neither among
// those that are given nor waiting here, and all behind it, is left out.
func (s *Session) Recall(undo, redo []string, known []PastStep) {
	by := map[string]step{}
	for _, k := range known {
		by[k.ID] = step{k.Ops, k.Inverse, k.ID}
	}
	for _, p := range s.waiting {
		by[p.ID] = step{p.Ops, p.inverse, p.ID}
	}
	of := func(ids []string) (out []step) {
		for k := len(ids) - 1; k >= 0; k-- {
			one, ok := by[ids[k]]
			if !ok {
				break
			}
			out = append(out, one)
		}
		slices.Reverse(out)
		return out
	}
	s.undo, s.redo = of(undo), of(redo)
}

// LastSteps returns the ids of the changes that would be undone and made again next; empty for none.
func (s *Session) LastSteps() (undo, redo string) {
	if n := len(s.undo); n > 0 {
		undo = s.undo[n-1].id
	}
	if n := len(s.redo); n > 0 {
		redo = s.redo[n-1].id
	}
	return undo, redo
}

// TryOut begins or ends trying out: what is done meanwhile is shown and not sent, and all of it springs back at
// the end, unless it is kept before.
func (s *Session) TryOut(on bool) {
	s.Cancel()
	s.trying = on
	if !on {
		s.springBack()
		s.tried, s.untried = nil, nil
		s.dropPoses()
	}
}

// KeepTried ends trying out, and makes all that was done meanwhile a change with the given id, which is one step of undo.
// More than one change may hold becomes several, whose ids are numbered.
func (s *Session) KeepTried(id string) {
	s.Cancel()
	tried := s.tried
	s.trying, s.tried, s.untried = false, nil, nil
	for n := 1; len(tried) > 0; n++ {
		var ops, inverse change.Ops
		for len(tried) > 0 && (ops == nil || len(ops)+len(tried[0].ops) <= change.MaxOps) {
			ops = append(ops, tried[0].ops...)
			inverse = append(slices.Clone(tried[0].inverse), inverse...)
			tried = tried[1:]
		}
		if n > 1 {
			id = fmt.Sprintf("%s-%d", strings.TrimSuffix(id, fmt.Sprintf("-%d", n-1)), n)
		}
		s.waiting = append(s.waiting, pending{Change{ID: id, Base: s.Revision, Ops: ops}, inverse})
		s.remember(step{ops, inverse, id})
	}
}

// Trying reports whether changes are tried out, and how many steps of them there are.
func (s *Session) Trying() (on bool, steps int) { return s.trying, len(s.tried) }

// remember notes a step that can be undone.
func (s *Session) remember(last step) {
	s.undo = append(s.undo, last)
	if len(s.undo) > maxSteps {
		s.undo = s.undo[1:]
	}
	s.redo = nil
}

// springBack takes back all that is tried out, which is remembered.
func (s *Session) springBack() {
	for i := len(s.tried) - 1; i >= 0; i-- {
		s.mustTake(s.tried[i].inverse)
	}
}

// Undo takes back the last step of this window, as a change with the given id; while changes are tried out, the last of
// these.
func (s *Session) Undo(id string) error {
	if s.trying {
		return s.backTried(&s.tried, &s.untried, "undone")
	}
	return s.back(&s.undo, &s.redo, id, "undone")
}

// Redo makes again what Undo took back.
func (s *Session) Redo(id string) error {
	if s.trying {
		return s.backTried(&s.untried, &s.tried, "redone")
	}
	return s.back(&s.redo, &s.undo, id, "redone")
}

func (s *Session) backTried(from, to *[]step, word string) error {
	s.Cancel()
	if len(*from) == 0 {
		return fmt.Errorf("nothing that is tried out can be %s; end trying out to go further", word)
	}
	last := (*from)[len(*from)-1]
	again, err := s.take(last.inverse, true)
	if err != nil {
		return fmt.Errorf("that step can no longer be %s: %w", word, err)
	}
	*from = (*from)[:len(*from)-1]
	*to = append(*to, step{last.inverse, again, last.id})
	return nil
}

func (s *Session) back(from, to *[]step, id, word string) error {
	s.Cancel()
	s.dropPoses()
	if len(*from) == 0 {
		return fmt.Errorf("there is nothing to be %s", word)
	}
	last := (*from)[len(*from)-1]
	*from = (*from)[:len(*from)-1]
	if err := s.apply(id, last.inverse, true); err != nil {
		return fmt.Errorf("that step can no longer be %s: %w", word, err)
	}
	*to = append(*to, step{last.inverse, s.waiting[len(s.waiting)-1].inverse, id})
	return nil
}

// CanUndo and CanRedo report whether there is a step to go.
func (s *Session) CanUndo() bool { return len(s.tried) > 0 || !s.trying && len(s.undo) > 0 }

// CanRedo reports whether a step was taken back that can be made again.
func (s *Session) CanRedo() bool { return len(s.untried) > 0 || !s.trying && len(s.redo) > 0 }
