package lottie

import (
	"encoding/json"
	"slices"

	"wunderkammer/core/format/brought"
	"wunderkammer/core/format/reel"
	"wunderkammer/core/num"
	"wunderkammer/core/scene"
)

// colour is that of a paint with its opacity.
func (r *reader) colour(s *shape, in context) *motion {
	return r.joined(reel.ColourTolerance, func(v [][]float64) []float64 {
		return []float64{v[0][0], v[0][1], v[0][2], v[0][3] * v[1][0] / 100}
	}, r.motion(&s.C, in.clock, 0, 0, 0, 1), r.motion(&s.O, in.clock, 100))
}

func rgba(v []float64) scene.Value {
	part := func(k int) float64 { return brought.Tidy(num.Clamp(v[k], 0, 1)) }
	return scene.RGBA(part(0), part(1), part(2), part(3))
}

// fill gives an item its fill; none where there is no paint. shift is how far its own space is shifted from that of its group.
func (r *reader) fill(item *scene.Item, s *shape, shift [2]float64, in context) {
	if s == nil {
		item.Edit("fill").Own = scene.RGBA(0, 0, 0, 0)
		return
	}
	if item.Path != nil {
		item.Path.EvenOdd = string(s.R) == "2"
	}
	if s.Type == "fl" {
		r.set(item, "fill", r.colour(s, in), rgba)
		return
	}
	if stops := r.ramp(s, in); len(stops) > 0 {
		brought.Ramp(item, stops, &r.Missed)
	}
	kind := 1.0
	if s.Kind == 2 {
		kind = 2
	}
	item.Edit("gradient").Own = scene.Num(kind)
	for key, p := range map[string]*property{"gradientFrom": &s.S, "gradientTo": &s.E} {
		r.set(item, key, r.motion(p, in.clock, 0, 0), func(v []float64) scene.Value {
			return scene.Pt(brought.Tidy(v[0]-shift[0]), brought.Tidy(-v[1]-shift[1]))
		})
	}
}

// ramp reads the colours of a gradient, which stay as they are at first: places and colours, and behind them places and how much light
// they let through.
func (r *reader) ramp(s *shape, in context) (out []scene.Stop) {
	if len(s.G.Stops.keys) == 0 || s.G.Count < 1 || s.G.Count > 1000 {
		return nil
	}
	if len(s.G.Stops.keys) > 1 {
		r.Miss("a gradient whose colours change; they stay as they are at first")
	}
	k := s.G.Stops.keys[0].value
	n := min(s.G.Count, len(k)/4)
	clear := k[4*n:]
	opacity := r.motion(&s.O, in.clock, 100).values[0][0] / 100
	for i := range n {
		at := num.Clamp(k[4*i], 0, 1)
		alpha := 1.0
		for j := 0; j+1 < len(clear); j += 2 { // the last that is not behind it, or what lies between two
			if clear[j] <= at || j == 0 {
				alpha = clear[j+1]
				if j+3 < len(clear) && clear[j+2] > clear[j] {
					share := num.Clamp((at-clear[j])/(clear[j+2]-clear[j]), 0, 1)
					alpha += float64((clear[j+3] - clear[j+1]) * share)
				}
			}
		}
		out = append(out, scene.Stop{At: at, Colour: rgba([]float64{k[4*i+1], k[4*i+2], k[4*i+3], alpha * opacity})})
	}
	for i := 1; i < len(out); i++ {
		out[i].At = max(out[i].At, out[i-1].At)
	}
	return out
}

// dash is a length of a broken line: a dash, a gap, or where it begins.
type dash struct {
	Name  string   `json:"n"`
	Value property `json:"v"`
}

// line gives an item its line.
func (r *reader) line(item *scene.Item, s *shape, in context) {
	if s == nil {
		return
	}
	if s.Type == "gs" {
		r.Miss("a gradient along a line, drawn in its first colour")
		if stops := r.ramp(s, in); len(stops) > 0 {
			item.Edit("stroke").Own = stops[0].Colour
		}
	} else {
		r.set(item, "stroke", r.colour(s, in), rgba)
	}
	r.set(item, "strokeWidth", r.motion(&s.W, in.clock, 1), number)
	for key, n := range map[string]int{"cap": s.Cap, "join": s.Join} {
		if n == 2 || n == 3 {
			item.Edit(key).Own = scene.Num(float64(n - 1))
		}
	}
	var dashes []dash
	if json.Unmarshal(s.D, &dashes) != nil {
		return
	}
	lengths := 0
	for k := range dashes {
		key := map[string]string{"d": "dash", "g": "gap", "o": "dashOffset"}[dashes[k].Name]
		if key == "" {
			continue
		}
		if key != "dashOffset" {
			if lengths++; lengths > 2 {
				r.Miss("a pattern of more than one dash and one gap")
				return
			}
		}
		m := r.motion(&dashes[k].Value, in.clock, 0)
		r.set(item, key, m, number)
		if key == "dash" && !slices.ContainsFunc(dashes, func(d dash) bool { return d.Name == "g" }) {
			r.set(item, "gap", m, number)
		}
	}
}

// trim gives an item the part of its line that is drawn.
func (r *reader) trim(item *scene.Item, s *shape, in context) {
	begin, end, by := r.motion(&s.S, in.clock, 0), r.motion(&s.E, in.clock, 100), r.motion(&s.O, in.clock, 0)
	shifted := func(a *motion) *motion {
		return r.joined(smallest, func(v [][]float64) []float64 { return []float64{v[0][0] + v[1][0]/3.6} }, a, by)
	}
	if by.moves() || by.values[0][0] != 0 {
		r.Miss("a part of a line that is moved along it, held at its ends")
	}
	r.set(item, "trimStart", shifted(begin), number)
	r.set(item, "trimEnd", shifted(end), number)
}
