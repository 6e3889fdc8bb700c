package engine

import (
	"cmp"
	"math"
	"slices"

	"wunderkammer/core/num"
	"wunderkammer/core/scene"
	"wunderkammer/core/wire"
)

// batch is plain wires whose sources are all ready: the same arithmetic over many slots.
type batch struct {
	source, target []int32
	gain, offset   []float64
	lo, hi         []float64
	jumps          []*scene.Spec // for targets that jump (switches, whole numbers); nil if there are none
	spans          []span
}

// span is a run of wires of a batch. Those of an even one have their sources and their targets evenly spaced, and
// the same limits.
type span struct {
	from, to                   int32
	even                       bool
	alike                      bool // they have the same gain and offset, too
	sourceStride, targetStride int32
}

// fewestEven is how many wires have to be alike, to be a span of their own.
const fewestEven = 8

// newBatch makes a batch of targets that have one plain wire each. A source that always holds the same as another
// is read there.
func newBatch(targets []*wire.Target, same map[int32]int32) batch {
	n := len(targets)
	b := batch{
		source: make([]int32, n), target: make([]int32, n),
		gain: make([]float64, n), offset: make([]float64, n),
		lo: make([]float64, n), hi: make([]float64, n),
	}
	bySlot := func(a, b *wire.Target) int { return cmp.Compare(a.Slot, b.Slot) }
	if !slices.IsSortedFunc(targets, bySlot) {
		slices.SortFunc(targets, bySlot)
	}
	for i, t := range targets {
		w := &t.Wires[0]
		b.source[i], b.target[i] = w.Source, t.Slot
		if other, ok := same[w.Source]; ok {
			b.source[i] = other
		}
		b.gain[i], b.offset[i] = w.Gain, w.Offset
		b.lo[i], b.hi[i] = t.Spec.Min, t.Spec.Max
		if t.Spec.Type == scene.Text {
			b.lo[i], b.hi[i] = 0, scene.MaxMagnitude
		}
		if t.Spec.Type != scene.Text && t.Spec.Jumps() {
			if b.jumps == nil {
				b.jumps = make([]*scene.Spec, n)
			}
			b.jumps[i] = t.Spec
		}
	}
	b.findSpans()
	return b
}

// findSpans cuts the batch into runs that are even, and what lies between them.
func (b *batch) findSpans() {
	n := len(b.target)
	for from := 0; from < n; {
		to := b.evenFrom(from)
		one := span{from: int32(from), to: int32(to), even: to-from >= fewestEven}
		last := len(b.spans) - 1
		switch {
		case one.even:
			one.sourceStride, one.targetStride = b.source[from+1]-b.source[from], b.target[from+1]-b.target[from]
			one.alike = uniform(b.gain[from:to]) && uniform(b.offset[from:to])
			b.spans = append(b.spans, one)
		case last >= 0 && !b.spans[last].even:
			b.spans[last].to = one.to
		default:
			b.spans = append(b.spans, one)
		}
		from = to
	}
}

// evenFrom returns where the longest even run ends that begins at a wire.
func (b *batch) evenFrom(from int) int {
	to := from + 1
	for ; to < len(b.target); to++ {
		if b.lo[to] != b.lo[from] || b.hi[to] != b.hi[from] ||
			b.source[to]-b.source[to-1] != b.source[from+1]-b.source[from] || b.target[to]-b.target[to-1] != b.target[from+1]-b.target[from] {
			break
		}
	}
	return to
}

func uniform(numbers []float64) bool {
	return !slices.ContainsFunc(numbers, func(x float64) bool { return x != numbers[0] })
}

// run is stackUp for plain wires, many at a time; the two are tested against each other.
func (b *batch) run(values, own []float64) {
	for _, s := range b.spans {
		switch {
		case !s.even:
			b.runMixed(s, values, own)
		case s.alike && s.sourceStride == 0:
			b.fill(s, values, own)
		case s.alike && s.sourceStride == 1 && s.targetStride == 1:
			b.runBeside(s, values, own)
		case s.sourceStride == 0 && s.targetStride == 1:
			b.runSpread(s, values, own)
		default:
			b.runStrided(s, values, own)
		}
	}
	b.jump(values)
}

// runMixed works out a span of any wires.
func (b *batch) runMixed(s span, values, own []float64) {
	target := b.target[s.from:s.to]
	n := len(target)
	source, gain, offset := b.source[s.from:s.to][:n], b.gain[s.from:s.to][:n], b.offset[s.from:s.to][:n]
	lo, hi := b.lo[s.from:s.to][:n], b.hi[s.from:s.to][:n]
	for i, target := range target {
		v := float64(values[source[i]]*gain[i]) + offset[i]
		if v-v != 0 { // not finite
			v = own[target]
		}
		if v < lo[i] {
			v = lo[i]
		}
		if v > hi[i] {
			v = hi[i]
		}
		values[target] = v
	}
}

// runStrided works out an even span, however far apart its slots are.
func (b *batch) runStrided(s span, values, own []float64) {
	lo, hi := b.lo[s.from], b.hi[s.from]
	least, most := within(lo, hi)
	source, target := b.source[s.from], b.target[s.from]
	gain := b.gain[s.from:s.to]
	offset := b.offset[s.from:s.to][:len(gain)]
	for i, gain := range gain {
		v := float64(values[source]*gain) + offset[i]
		if !(v >= least && v <= most) {
			v = limited(v, own[target], lo, hi)
		}
		values[target] = v
		source, target = source+s.sourceStride, target+s.targetStride
	}
}

// runBeside works out an even span of one gain and offset, whose slots lie side by side.
func (b *batch) runBeside(s span, values, own []float64) {
	gain, offset, lo, hi := b.gain[s.from], b.offset[s.from], b.lo[s.from], b.hi[s.from]
	source, target, n := b.source[s.from], b.target[s.from], s.to-s.from
	out := values[target : target+n]
	own = own[target:][:len(out)]
	least, most := within(lo, hi)
	for i, x := range values[source:][:len(out)] {
		v := float64(x*gain) + offset
		if !(v >= least && v <= most) {
			v = limited(v, own[i], lo, hi)
		}
		out[i] = v
	}
}

// within returns the least and the greatest finite number within limits: what lies between them stays as it is.
func within(lo, hi float64) (least, most float64) {
	return max(lo, -math.MaxFloat64), min(hi, math.MaxFloat64)
}

// limited is a number within limits; the own value where it is not finite.
func limited(v, own, lo, hi float64) float64 {
	if v-v != 0 { // not finite
		v = own
	}
	return num.Clamp(v, lo, hi)
}

// runSpread works out an even span of one source whose targets lie side by side, each with a gain and offset of its own.
func (b *batch) runSpread(s span, values, own []float64) {
	lo, hi := b.lo[s.from], b.hi[s.from]
	least, most := within(lo, hi)
	x, target := values[b.source[s.from]], b.target[s.from]
	gain := b.gain[s.from:s.to]
	offset, out := b.offset[s.from:s.to][:len(gain)], values[target:][:len(gain)]
	own = own[target:][:len(gain)]
	for i, gain := range gain {
		v := float64(x*gain) + offset[i]
		if !(v >= least && v <= most) {
			v = limited(v, own[i], lo, hi)
		}
		out[i] = v
	}
}

// fill works out an even span of one gain and offset, and of one source.
func (b *batch) fill(s span, values, own []float64) {
	v := float64(values[b.source[s.from]]*b.gain[s.from]) + b.offset[s.from]
	if v-v != 0 { // not finite
		b.runStrided(s, values, own)
		return
	}
	lo, hi := b.lo[s.from], b.hi[s.from]
	if v < lo {
		v = lo
	}
	if v > hi {
		v = hi
	}
	target := b.target[s.from]
	if n := s.to - s.from; s.targetStride == 1 {
		fillRow(values[target:target+n], v)
		return
	}
	for range s.to - s.from {
		values[target] = v
		target += s.targetStride
	}
}

// jump brings targets that only jump to what they can be.
func (b *batch) jump(values []float64) {
	for i, spec := range b.jumps {
		if spec != nil {
			values[b.target[i]] = spec.Limit(values[b.target[i]])
		}
	}
}

// runBlock is run over a block.
func (b *batch) runBlock(s *frameBlock) {
	for k, target := range b.target {
		values := s.Values[target]
		source, own := s.Values[b.source[k]][:len(values)], s.Own[target][:len(values)]
		gain, offset, lo, hi := b.gain[k], b.offset[k], b.lo[k], b.hi[k]
		for i, x := range source {
			v := float64(x*gain) + offset
			if v-v != 0 { // not finite
				if v = own[0]; !s.OwnSteady[target] {
					v = own[i]
				}
			}
			if v < lo {
				v = lo
			}
			if v > hi {
				v = hi
			}
			values[i] = v
		}
		if b.jumps != nil && b.jumps[k] != nil {
			for i, v := range values {
				values[i] = b.jumps[k].Limit(v)
			}
		}
	}
}
