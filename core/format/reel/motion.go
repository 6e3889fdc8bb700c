package reel

import (
	"math"

	"wunderkammer/core/outline"
	"wunderkammer/core/scene"
)

// Turned is a transform of a plane in parts that change evenly: first it is scaled, then sheared, turned, and moved.
type Turned struct {
	Move  [2]float64
	Angle float64 // degrees, with whole turns
	Shear float64 // degrees, along x
	Scale [2]float64
}

// Turn takes a transform into parts, as close to those of the frame before as can be.
func (m Matrix) Turn(before *Turned) Turned {
	a, b, c, d := m[0], m[1], m[2], m[3]
	out := Turned{Move: [2]float64{m[4], m[5]}}
	det := float64(a*d) - float64(b*c)
	sx := math.Hypot(a, b)
	switch {
	case sx > 1e-9:
		angle := math.Atan2(b, a)
		if before != nil && math.Cos(angle-before.Angle*math.Pi/180) < 0 { // it was flipped rather than turned round
			angle, sx = angle+math.Pi, -sx
		}
		out.Angle, out.Scale = angle, [2]float64{sx, det / sx}
		if math.Abs(det) > 1e-9 {
			out.Shear = math.Atan((float64(a*c)+float64(b*d))/det) * 180 / math.Pi
		}
	default:
		out.Angle, out.Scale = math.Atan2(-c, d), [2]float64{0, math.Hypot(c, d)}
	}
	out.Angle = float64(out.Angle * 180 / math.Pi)
	if before != nil {
		out.Angle += float64(360 * math.Round((before.Angle-out.Angle)/360))
	}
	return out
}

// size is how long the longest side of a unit square gets by it.
func (m *Matrix) size() float64 { return max(math.Hypot(m[0], m[1]), math.Hypot(m[2], m[3])) }

// Motion is where a part stands over time: its transform in parts at each frame, and the keys of each of them.
type Motion struct {
	All                       []Turned
	Move, Angle, Shear, Scale []Key
}

// Still reports whether it stands where it is.
func (m *Motion) Still() bool {
	return len(m.Move) == 1 && len(m.Angle) == 1 && len(m.Shear) == 1 && len(m.Scale) == 1
}

// Motion takes the transforms of a part into parts, with keys so that nothing that is drawn is further off than so many pixels.
// Where it is not seen, it stays where it was.
func (p *Part) Motion(tolerance float64) *Motion {
	looks := p.filled()
	m := &Motion{All: make([]Turned, len(looks))}
	for k, look := range looks {
		switch {
		case k == 0:
			m.All[k] = look.Place.Turn(nil)
		case look.Place == looks[k-1].Place:
			m.All[k] = m.All[k-1]
		default:
			m.All[k] = look.Place.Turn(&m.All[k-1])
		}
	}
	keys := func(tolerance float64, of func(t *Turned) []float64) []Key {
		rows := make([][]float64, len(m.All))
		for k := range m.All {
			rows[k] = of(&m.All[k])
		}
		return Keys(rows, tolerance)
	}
	// Whatever changes may be off by its share; what turns moves its edge.
	first, changing := &m.All[0], [4]float64{}
	for k := range m.All {
		t := &m.All[k]
		for n, changes := range [4]bool{t.Move != first.Move, t.Angle != first.Angle, t.Shear != first.Shear, t.Scale != first.Scale} {
			if changes {
				changing[n] = 1
			}
		}
	}
	tolerance /= max(1, changing[0]+changing[1]+changing[2]+changing[3])
	reach := max(1, p.reach())
	angle := tolerance / reach / max(1e-3, p.Size())
	m.Move = keys(tolerance, func(t *Turned) []float64 { return t.Move[:] })
	m.Angle = keys(angle*180/math.Pi, func(t *Turned) []float64 { return []float64{t.Angle} })
	m.Shear = keys(angle*180/math.Pi, func(t *Turned) []float64 { return []float64{t.Shear} })
	m.Scale = keys(tolerance/reach, func(t *Turned) []float64 { return t.Scale[:] })
	return m
}

// Motion is that of what stands still.
func (m Matrix) Motion() *Motion {
	one := []Key{{0, Straight}}
	return &Motion{[]Turned{m.Turn(nil)}, one, one, one, one}
}

// reach is how far from the middle of its space what is drawn of the part reaches at most.
func (p *Part) reach() float64 {
	reach := 0.0
	for _, look := range p.Looks {
		if look != nil {
			b, w := look.Outline.Box(), float64(look.Width/2)
			reach = max(reach, w-b.Left, w-b.Bottom, b.Right+w, b.Top+w)
		}
	}
	return reach
}

// filled are the looks of all frames: where it is not seen, it looks as at the frame before, or as it does at first.
func (p *Part) filled() []*Look {
	out := make([]*Look, len(p.Looks))
	last := p.First()
	for k, look := range p.Looks {
		if look != nil {
			last = look
		}
		out[k] = last
	}
	return out
}

// Outlines returns outlines of a part, one for each frame, and their keys. Where the pieces of an outline are others than before,
// it can't pass from one to the other: smooth is false, each key holds until the next.
func (p *Part) Outlines(of func(*Look) outline.Path, tolerance float64) (all []outline.Path, keys []Key, smooth bool) {
	looks := p.filled()
	all = make([]outline.Path, len(looks))
	smooth = true
	for k, look := range looks {
		all[k] = of(look)
		smooth = smooth && Alike(all[k], all[0])
	}
	if !smooth || len(all[0].Points) == 0 {
		for k := range all {
			if k == 0 || !same(all[k], all[k-1]) {
				keys = append(keys, Key{k, Straight})
			}
		}
		return all, keys, false
	}
	size := func(k int) float64 { return max(1e-6, looks[k].Place.size()) }
	if leaner := lean(all, size, tolerance/2); len(leaner[0].Points) < len(all[0].Points) {
		all, tolerance = leaner, tolerance/2
	}
	rows := make([][]float64, len(all))
	for k := range all {
		rows[k] = all[k].Points
	}
	return all, keysOf(rows, func(k int) float64 { return tolerance / size(k) }), true
}

// Over returns what of says of a part at each frame, and the keys of it.
func (p *Part) Over(of func(*Look) []float64, tolerance float64) (rows [][]float64, keys []Key) {
	looks := p.filled()
	rows = make([][]float64, len(looks))
	for k, look := range looks {
		if k > 0 && look == looks[k-1] {
			rows[k] = rows[k-1]
		} else {
			rows[k] = of(look)
		}
	}
	return rows, Keys(rows, tolerance)
}

// Colours returns the red, green and blue of a colour of a part at each frame, and how much of what is behind it is covered, each
// with its keys.
func (p *Part) Colours(of func(*Look) scene.Value) (colours [][]float64, coloured []Key, alphas [][]float64, covered []Key) {
	colours, coloured = p.Over(func(l *Look) []float64 {
		c := of(l)
		return []float64{c.At(0), c.At(1), c.At(2)}
	}, ColourTolerance)
	alphas, covered = p.Over(func(l *Look) []float64 { return []float64{of(l).At(3)} }, OpacityTolerance)
	return colours, coloured, alphas, covered
}

// Spans returns from which frame until before which others the part is seen.
func (p *Part) Spans() (out [][2]int) {
	for k, look := range p.Looks {
		switch {
		case look == nil:
		case len(out) > 0 && out[len(out)-1][1] == k:
			out[len(out)-1][1] = k + 1
		default:
			out = append(out, [2]int{k, k + 1})
		}
	}
	return out
}
