package engine

import (
	"slices"

	"wunderkammer/core/formula"
)

// sheet is the slots of a probe over a run of frames: a column of times for each of them.
type sheet struct {
	formula.Sheet
	answers host
	arena   []float64
}

func (s *sheet) host() *host {
	s.answers.times = s.Frames
	return &s.answers
}

// sheet returns a sheet of some slots at frames, without values. It is given back with done.
func (p *Plan) sheet(slots int, frames []float64) *sheet {
	var s *sheet
	if n := len(p.sheets); n > 0 {
		s, p.sheets = p.sheets[n-1], p.sheets[:n-1]
	} else {
		s = &sheet{answers: host{p: p}}
	}
	s.Frames = frames
	if need := 2 * slots * formula.SheetFrames; len(s.arena) < need {
		s.arena = make([]float64, need)
	}
	s.Values, s.Own, s.Steady = s.Values[:0], s.Own[:0], nil
	for k := range slots {
		at := 2 * k * formula.SheetFrames
		s.Own = append(s.Own, s.arena[at:at+len(frames)])
		at += formula.SheetFrames
		s.Values = append(s.Values, s.arena[at:at+len(frames)])
	}
	return s
}

func (p *Plan) done(s *sheet) { p.sheets = append(p.sheets, s) }

// fill works a probe out at all frames of a sheet: evaluate, a column of frames at a time. The two are
// tested against each other.
func (p *Plan) fill(s *sheet, pr *probe) {
	s.Steady = pr.steady
	for k, own := range pr.own {
		row := s.Own[k]
		if row[0] = own; pr.read[k] || !pr.driven[k] && !pr.steady[k] {
			for i := range row {
				row[i] = own
			}
		}
		switch {
		case pr.driven[k]:
		case !pr.limits[k]:
			s.Values[k] = row
		default: // within its limits it is something else
			for i := range row {
				s.Values[k][i] = pr.start[k]
			}
		}
	}
	for i := range pr.tracks {
		t := &pr.tracks[i]
		for k := range t.tracks {
			slot := t.slot + int32(k)
			own := s.Own[slot]
			for i, f := range s.Frames {
				own[i] = t.tracks[k].At(f)
			}
			if pr.limits[slot] && !pr.driven[slot] {
				for i, x := range own {
					s.Values[slot][i] = t.limits.Limit(x)
				}
			}
		}
	}
	host := s.host()
	p.pause()
	for k := range pr.levels {
		l := &pr.levels[k]
		for _, g := range l.groups {
			g.RunSheet(&s.Sheet, host)
		}
		l.batch.runSheet(s)
		for i := range l.stacks {
			p.stackSheet(s, &l.stacks[i])
		}
	}
}

// runSheet is run over a sheet.
func (b *batch) runSheet(s *sheet) {
	for k, target := range b.target {
		source, own, values := s.Values[b.source[k]], s.Own[target], s.Values[target]
		for i := range values {
			v := float64(source[i]*b.gain[k]) + b.offset[k]
			if v-v != 0 { // not finite
				v = own[i]
			}
			if v < b.lo[k] {
				v = b.lo[k]
			}
			if v > b.hi[k] {
				v = b.hi[k]
			}
			values[i] = v
		}
		if b.step != nil && b.step[k] != nil {
			for i, v := range values {
				values[i] = b.step[k].Limit(v)
			}
		}
	}
}

// stackSheet is stackUp over a sheet.
func (p *Plan) stackSheet(s *sheet, st *stack) {
	below := s.Values[st.slot]
	copy(below, s.Own[st.own])
	for k := range st.steps {
		one := &st.steps[k]
		for i, f := range s.Frames {
			var source, weight float64
			if one.late {
				source = p.hear(one.heard, f-one.Delay, f)
			} else {
				source = s.Values[one.Source][i]
			}
			if one.Weight >= 0 {
				weight = s.Values[one.Weight][i]
			}
			below[i] = one.over(st.spec, below[i], source, weight)
		}
	}
	for i := range below {
		below[i] = st.limit(below[i])
	}
}

// forward works an echo out at frames, in order, and keeps its values.
func (p *Plan) forward(e *echo, frames []float64) {
	pr, n := e.probe, len(frames)
	fresh := slices.Grow(p.fresh[:0], len(e.slots)*n)[:len(e.slots)*n]
	p.fresh = nil // what is asked for on the way has its own
	for from := 0; from < n; from += formula.SheetFrames {
		s := p.sheet(len(pr.own), frames[from:min(n, from+formula.SheetFrames)])
		p.fill(s, pr)
		for k, slot := range e.slots {
			copy(fresh[k*n+from:], s.Values[pr.slot(slot)])
		}
		p.done(s)
	}
	e.merge(frames, fresh)
	p.kept += len(fresh)
	p.fresh = fresh
}

// merge puts frames that are not kept yet, in order, where they belong, with the values of every slot.
func (e *echo) merge(frames, fresh []float64) {
	n, old := len(frames), len(e.frames)
	e.frames = slices.Grow(e.frames, n)[:old+n]
	for k := range e.rows {
		e.rows[k] = slices.Grow(e.rows[k], n)[:old+n]
	}
	for n > 0 { // from the last on, as many as lie between the same two that are kept
		at, _ := slices.BinarySearch(e.frames[:old], frames[n-1])
		first := 0
		if at > 0 {
			first, _ = slices.BinarySearch(frames[:n], e.frames[at-1])
		}
		copy(e.frames[at+n:], e.frames[at:old])
		copy(e.frames[at+first:], frames[first:n])
		for k, row := range e.rows {
			copy(row[at+n:], row[at:old])
			copy(row[at+first:], fresh[k*len(frames)+first:k*len(frames)+n])
		}
		old, n = at, first
	}
}
