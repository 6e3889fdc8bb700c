package lottie

import (
	"math"
	"slices"

	"wunderkammer/core/curve"
	"wunderkammer/core/format/reel"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// clock leads from the times of a file to frames of the composition: frame = by · time + from.
type clock struct{ by, from float64 }

func (c clock) at(time float64) float64 { return float64(c.by*time) + c.from }

// within is the clock of what is timed by another within this one.
func (c clock) within(inner clock) clock { return clock{c.by * inner.by, c.at(inner.from)} }

// motion is how some numbers change over the frames of the composition. At one frame only, they stand still.
type motion struct {
	frames  []float64
	values  [][]float64      // at each frame, all of one length
	easings [][]curve.Easing // of the span behind it: one for all numbers, or one for each
	leads   [][]float64      // where a path leaves a frame to, and arrives at it from, counted from its value; nil: straight
	arrives [][]float64
	tracks  []curve.Track // made when they are first needed
}

func fixed(values ...float64) *motion {
	return &motion{frames: []float64{0}, values: [][]float64{values}, easings: [][]curve.Easing{{curve.Linear}}}
}

func (m *motion) moves() bool { return len(m.frames) > 1 }

// even reports whether each span goes alike for all numbers, so that they can be pinned together.
func (m *motion) even() bool {
	return !slices.ContainsFunc(m.easings, func(e []curve.Easing) bool { return len(e) > 1 })
}

// bounds of what is read of motions.
const (
	far      = 1e7     // how large a number is at most
	maxBaked = 2000000 // numbers that are worked out frame by frame, for a file
	maxKeys  = 500000  // of all properties of a file
)

// motion reads a property of so many numbers; otherwise is what they are where the file doesn't say.
func (r *reader) motion(p *property, c clock, otherwise ...float64) *motion {
	if p.expression {
		r.Once("expressions; what they drive stays as it was set")
	}
	if p.split != nil {
		parts := [3]*motion{}
		for k := range parts {
			parts[k] = r.motion(&p.split[k], c, append(otherwise, 0, 0, 0)[k])
		}
		return r.joined(smallest, func(v [][]float64) []float64 { return []float64{v[0][0], v[1][0], v[2][0]}[:len(otherwise)] }, parts[:]...)
	}
	m := &motion{}
	for k := range p.keys {
		key, frame := &p.keys[k], c.at(p.keys[k].at)
		n := len(m.frames)
		if key.value == nil || !(math.Abs(frame) < scene.MaxFrames) || n > 0 && frame <= m.frames[n-1] {
			continue
		}
		if r.keys++; r.keys > maxKeys {
			r.Miss("keys beyond those that can be kept")
			break
		}
		m.frames, m.values, m.easings = append(m.frames, frame), append(m.values, fitted(key.value, otherwise)), append(m.easings, key.easings(len(otherwise)))
		if len(key.lead) > 0 || len(key.arrive) > 0 {
			nothing := make([]float64, len(otherwise))
			m.leads, m.arrives = filled(m.leads, n+1, nothing), filled(m.arrives, n+2, nothing)
			m.leads[n], m.arrives[n+1] = fitted(key.lead, nothing), fitted(key.arrive, nothing)
		}
	}
	if len(m.frames) == 0 {
		return fixed(otherwise...)
	}
	if m.leads != nil {
		nothing := make([]float64, len(otherwise))
		m.leads, m.arrives = filled(m.leads, len(m.frames), nothing), filled(m.arrives, len(m.frames), nothing)[:len(m.frames)]
	}
	return m
}

// fitted is a list of numbers as long as another, which stands in for what is missing or none.
func fitted(list, otherwise []float64) []float64 {
	out := slices.Clone(otherwise)
	for k := range out {
		if k < len(list) && math.Abs(list[k]) < far {
			out[k] = list[k]
		}
	}
	return out
}

func filled(list [][]float64, n int, with []float64) [][]float64 {
	for len(list) < n {
		list = append(list, with)
	}
	return list
}

// easings are those of the span behind a key: one, where all its numbers go alike.
func (k *keyframe) easings(width int) (out []curve.Easing) {
	if k.hold {
		return []curve.Easing{curve.Hold}
	}
	at := func(list []float64, n int, otherwise float64) float64 {
		if len(list) == 0 {
			return otherwise
		}
		return list[min(n, len(list)-1)]
	}
	for n := range width {
		x1, y1, x2, y2 := at(k.out[0], n, 0), at(k.out[1], n, 0), at(k.in[0], n, 1), at(k.in[1], n, 1)
		out = append(out, cubic(x1, y1, x2, y2))
	}
	if len(slices.Compact(slices.Clone(out))) == 1 {
		out = out[:1]
	}
	return out
}

// cubic is an easing by the handles of a curve, as a word where it goes straight.
func cubic(x1, y1, x2, y2 float64) curve.Easing {
	fine := func(x float64) float64 { return math.Round(x*1e4)/1e4 + 0 }
	x1, y1, x2, y2 = fine(num.Clamp(x1, 0, 1)), fine(y1), fine(num.Clamp(x2, 0, 1)), fine(y2)
	e := curve.Shape{Word: curve.Cubic, Numbers: []float64{x1, y1, x2, y2}}.Easing()
	if x1 == y1 && x2 == y2 || e.Check() != nil {
		return curve.Linear
	}
	return e
}

// at returns the numbers at a frame.
func (m *motion) at(frame float64) []float64 {
	if !m.moves() {
		return m.values[0]
	}
	if m.tracks == nil {
		width := len(m.values[0])
		easings := func(part int) []curve.Easing {
			out := make([]curve.Easing, len(m.frames))
			for k, e := range m.easings {
				out[k] = e[min(part, len(e)-1)]
			}
			return out
		}
		if m.leads != nil && width >= 2 && width <= 3 {
			m.tracks = curve.Along(m.frames, m.values, m.leads, m.arrives, easings(0))
		} else {
			for part := range width {
				own := make([]float64, len(m.frames))
				for k, v := range m.values {
					own[k] = v[part]
				}
				m.tracks = append(m.tracks, curve.New(m.frames, own, easings(part)))
			}
		}
	}
	out := make([]float64, len(m.tracks))
	for part := range m.tracks {
		out[part] = m.tracks[part].At(frame)
	}
	return out
}

// smallest is how far lengths, angles and percents may be off where they are worked out frame by frame.
const smallest = 0.02

// joined is what some motions come to together. With f being even in each of them, what one that moves by itself comes to goes as that
// does; two that move are worked out frame by frame.
func (r *reader) joined(tolerance float64, f func(v [][]float64) []float64, parts ...*motion) *motion {
	moving, values := -1, make([][]float64, len(parts))
	several := false
	for k, p := range parts {
		values[k] = p.values[0]
		if p.moves() {
			several = several || moving >= 0
			moving = k
		}
	}
	if moving < 0 {
		return fixed(f(values)...)
	}
	if several {
		return r.baked(tolerance, func(frame float64) []float64 {
			for k, p := range parts {
				values[k] = p.at(frame)
			}
			return f(values)
		}, parts...)
	}
	one := parts[moving]
	with := func(v []float64) []float64 {
		values[moving] = v
		return slices.Clone(f(values))
	}
	out := &motion{frames: one.frames, easings: one.easings}
	if !one.even() && len(with(one.values[0])) != len(one.values[0]) {
		return r.baked(tolerance, func(frame float64) []float64 { return with(one.at(frame)) }, one)
	}
	for k, v := range one.values {
		out.values = append(out.values, with(v))
		if one.leads != nil {
			out.leads, out.arrives = append(out.leads, less(with(plus(v, one.leads[k])), out.values[k])), append(out.arrives, less(with(plus(v, one.arrives[k])), out.values[k]))
		}
	}
	return out
}

func plus(a, b []float64) []float64 {
	out := slices.Clone(a)
	for k := range out {
		out[k] += b[k]
	}
	return out
}

func less(a, b []float64) []float64 {
	out := slices.Clone(a)
	for k := range out {
		out[k] -= b[k]
	}
	return out
}

// baked works numbers out frame by frame over the time in which some motions move, and keeps as few of them as a tolerance allows.
func (r *reader) baked(tolerance float64, at func(frame float64) []float64, parts ...*motion) *motion {
	from, to := math.Inf(1), math.Inf(-1)
	for _, p := range parts {
		if p.moves() {
			from, to = min(from, math.Floor(p.frames[0])), max(to, math.Ceil(p.frames[len(p.frames)-1]))
		}
	}
	n := int(to-from) + 1
	if r.worked += n; r.worked > maxBaked {
		r.Miss("motion beyond what can be worked out")
		return fixed(at(from)...)
	}
	rows := make([][]float64, n)
	for k := range rows {
		rows[k] = slices.Clone(at(from + float64(k)))
	}
	out := &motion{}
	for _, key := range reel.Keys(rows, tolerance) {
		easing := cubic(1./3, key.Out, 2./3, key.In)
		if key.Ease == reel.Straight {
			easing = curve.Linear
		}
		out.frames, out.values, out.easings = append(out.frames, from+float64(key.Frame)), append(out.values, rows[key.Frame]), append(out.easings, []curve.Easing{easing})
	}
	return out
}

// set gives a property of an item what a motion comes to: a value of its own, or pins at whole frames.
func (r *reader) set(item *scene.Item, key string, m *motion, value func(v []float64) scene.Value) {
	spec := item.Spec(key)
	if spec == nil {
		return
	}
	limited := func(v []float64) scene.Value { return spec.Held(value(v)) }
	if m.moves() && !m.even() {
		m = r.baked(smallest, m.at, m)
	}
	first := limited(m.values[0])
	same := !slices.ContainsFunc(m.values, func(v []float64) bool { return limited(v) != first })
	if !m.moves() || same && m.leads == nil {
		if first != spec.Default {
			item.Edit(key).Own = first
		}
		return
	}
	var pins []scene.Pin
	for k, v := range m.values {
		frame := math.Round(m.frames[k])
		if math.Abs(frame-m.frames[k]) > 0.01 {
			r.Once("keys between two frames; they are moved to the nearer one")
		}
		pin := scene.Pin{Frame: int(frame), Value: limited(v), Easing: m.easings[k][0]}
		if m.leads != nil {
			pin.Lead, pin.Arrive = way(value, v, m.leads[k]), way(value, v, m.arrives[k])
		}
		if n := len(pins); n > 0 && pins[n-1].Frame == pin.Frame {
			pins = pins[:n-1]
		}
		pins = append(pins, pin)
	}
	item.Edit(key).Pins = pins
}

// way is what a vector from a value comes to; absent where it is none.
func way(value func(v []float64) scene.Value, from, by []float64) scene.Value {
	if !slices.ContainsFunc(by, func(x float64) bool { return x != 0 }) {
		return scene.Value{}
	}
	a, b := value(from), value(plus(from, by))
	for k := range b.Len() {
		b = b.With(k, b.At(k)-a.At(k))
	}
	return b
}
