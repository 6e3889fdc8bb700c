package graph

import (
	"cmp"
	"slices"

	"wunderkammer/core/formula"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

// The distances between slips that are laid out, in pixels.
const (
	acrossStep = 220
	downStep   = 26 // a slip takes its title and a row for each input
)

// Arrange lays the slips of a graph out: what drives stands at the right, and everything left of what it leads to, near
// what it leads to. Notes stay where they are, and so does what lies in closed folds; the folds stand for it.
func Arrange(g *scene.Graph) {
	g = shown(g)
	columns, last := columnsOf(g), wired(g)
	from, byID := map[scene.ID][]*scene.Wire{}, map[scene.ID]*scene.Slip{}
	for _, w := range g.Wires {
		from[w.From] = append(from[w.From], w)
	}
	place := map[scene.ID]float64{} // the middle of a slip, from the top
	by := map[int][]*scene.Slip{}
	furthest := 0
	for _, s := range g.Slips {
		byID[s.ID] = s
		if s.Kind != scene.NoteSlip && (s.Kind != scene.FoldSlip || !s.Open) {
			by[columns[s.ID]] = append(by[columns[s.ID]], s)
			furthest = max(furthest, columns[s.ID])
		}
	}
	for c := range furthest + 1 {
		slips := by[c]
		wanted := map[scene.ID]float64{}
		for _, s := range slips {
			sum, n := 0.0, 0.0
			for _, w := range from[s.ID] {
				sum, n = sum+place[w.To]+inputAt(byID[w.To], w, last), n+1
			}
			if n > 0 {
				wanted[s.ID] = sum / n
			}
		}
		slices.SortStableFunc(slips, func(a, b *scene.Slip) int { return cmp.Compare(wanted[a.ID], wanted[b.ID]) })
		top := 0.0
		for k, s := range slips {
			h := height(s, last[s.ID])
			at := wanted[s.ID] - float64(h/2)
			if k > 0 {
				at = max(at, top)
			}
			place[s.ID], top = at+float64(h/2), at+h+downStep
			s.At = [2]float64{float64((furthest - c) * acrossStep), float64(int(at))}
		}
	}
}

// memberStep is how high the line of a member is on a slip that gathers.
const memberStep = 16

// height is how high a slip is: its title, its inputs, what it gives, and as many members of what it gathers as are shown.
func height(s *scene.Slip, last int) float64 {
	outs := 1
	if s.Kind == scene.FoldSlip {
		outs = len(s.Ports) + 1
	}
	for _, w := range Words {
		if s.Kind == scene.WordsSlip && w.Text == s.Text {
			outs = len(w.Outs)
		}
	}
	members := 0
	if s.Kind == scene.ReadSlip && syntax.Gathers(s.Text) {
		members = (formula.Sampled + 1) * memberStep
	}
	return float64((1+len(inputsOf(s, last))+outs)*downStep + members)
}

// inputAt returns how far from the middle of its slip an input stands.
func inputAt(s *scene.Slip, w *scene.Wire, last map[scene.ID]int) float64 {
	ports := inputsOf(s, last[s.ID])
	k := slices.IndexFunc(ports, func(p Port) bool { return p.Key == w.In })
	return float64((2*max(0, k) - (len(ports) - 1)) * downStep / 2)
}

// columnsOf returns how many wires lead from a slip to the end at most; where slips run in a circle, some of them.
func columnsOf(g *scene.Graph) map[scene.ID]int {
	to := map[scene.ID][]scene.ID{}
	for _, w := range g.Wires {
		to[w.From] = append(to[w.From], w.To)
	}
	out, open := map[scene.ID]int{}, map[scene.ID]bool{}
	var of func(id scene.ID) int
	of = func(id scene.ID) int {
		if n, ok := out[id]; ok || open[id] {
			return n
		}
		open[id] = true
		n := 0
		for _, next := range to[id] {
			n = max(n, of(next)+1)
		}
		out[id] = n
		return n
	}
	for _, s := range g.Slips {
		of(s.ID)
	}
	return out
}

// shown returns a graph as it is seen: with closed folds in place of what lies in them. The slips are those of the graph.
func shown(g *scene.Graph) *scene.Graph {
	slips := map[scene.ID]*scene.Slip{}
	for _, s := range g.Slips {
		slips[s.ID] = s
	}
	closing := func(id scene.ID) (out *scene.Slip) { // the outermost closed fold that a slip lies in
		depth := 0
		for s := slips[id]; s != nil && s.Within != "" && depth < len(g.Slips); s = slips[s.Within] {
			if fold := slips[s.Within]; fold != nil && !fold.Open {
				out = fold
			}
			depth++
		}
		return out
	}
	out := &scene.Graph{}
	for _, s := range g.Slips {
		if closing(s.ID) == nil {
			out.Slips = append(out.Slips, s)
		}
	}
	for _, w := range g.Wires {
		seen := *w
		if fold := closing(w.From); fold != nil {
			seen.From = fold.ID
		}
		if fold := closing(w.To); fold != nil {
			seen.To = fold.ID
		}
		if seen.From != seen.To {
			out.Wires = append(out.Wires, &seen)
		}
	}
	return out
}
