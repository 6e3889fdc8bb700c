package engine

import (
	"wunderkammer/core/machine"
)

// frameBlock is the slots of a slice over a run of frames: a row of frames for each of them.
type frameBlock struct {
	machine.FrameBlock
	answers env
	arena   []float64
}

func (s *frameBlock) env() *env {
	s.answers.times = s.Frames
	return &s.answers
}

// frameBlock returns a block of some slots at frames, without values. It is given back with done.
func (p *Plan) frameBlock(slots int, frames []float64) *frameBlock {
	var s *frameBlock
	if n := len(p.blocks); n > 0 {
		s, p.blocks = p.blocks[n-1], p.blocks[:n-1]
	} else {
		s = &frameBlock{answers: env{p: p}}
	}
	s.Frames = frames
	if need := 2 * slots * machine.BlockFrames; len(s.arena) < need {
		s.arena = make([]float64, need)
	}
	s.Values, s.Own, s.Steady, s.OwnSteady = s.Values[:0], s.Own[:0], nil, nil
	for k := range slots {
		at := 2 * k * machine.BlockFrames
		s.Own = append(s.Own, s.arena[at:at+len(frames)])
		at += machine.BlockFrames
		s.Values = append(s.Values, s.arena[at:at+len(frames)])
	}
	return s
}

func (p *Plan) done(s *frameBlock) { p.blocks = append(p.blocks, s) }

// fill works a slice out at all frames of a block: evaluate, a row of frames at a time. The two are
// tested against each other.
func (p *Plan) fill(s *frameBlock, pr *depSlice) {
	s.Steady, s.OwnSteady = pr.steady, pr.ownSteady
	for k, own := range pr.own {
		s.Own[k][0] = own
		switch {
		case pr.driven[k] || !pr.ownSteady[k]:
		case pr.whole[k]:
			fillRow(s.Values[k], pr.start[k])
		default:
			s.Values[k][0] = pr.start[k]
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
			switch {
			case pr.driven[slot]:
			case t.limits.Part(k).Limits():
				for i, x := range own {
					s.Values[slot][i] = t.limits.Part(k).Limit(x)
				}
			default:
				s.Values[slot] = own
			}
		}
	}
	env := s.env()
	p.pause()
	for k := range pr.levels {
		l := &pr.levels[k]
		for _, g := range l.groups {
			g.RunBlock(&s.FrameBlock, env)
		}
		for _, t := range l.reduced {
			t.Reduced().RunBlock(&s.FrameBlock, t.Slot)
		}
		l.batch.runBlock(s)
		for i := range l.stacks {
			p.stackBlock(s, &l.stacks[i])
		}
	}
}

func fillRow(row []float64, x float64) {
	for i := range row {
		row[i] = x
	}
}

// stackBlock is stackUp over a block.
func (p *Plan) stackBlock(s *frameBlock, st *stack) {
	below := s.Values[st.slot]
	if own := s.Own[st.own]; s.OwnSteady[st.own] {
		fillRow(below, own[0])
	} else {
		copy(below, own)
	}
	var earlier, late [machine.BlockFrames]float64
	for k := range st.layers {
		one := &st.layers[k]
		source := late[:len(below)]
		if one.late {
			for i, f := range s.Frames {
				earlier[i] = f - one.Delay
			}
			s.env().Look(source, earlier[:len(below)], []float64{float64(one.original)})
		} else {
			source = s.Values[one.Source]
		}
		for i := range below {
			var weight float64
			if one.Weight >= 0 {
				weight = s.Values[one.Weight][i]
			}
			below[i] = one.over(st.spec, below[i], source[i], weight)
		}
	}
	for i := range below {
		below[i] = st.limit(below[i])
	}
}
