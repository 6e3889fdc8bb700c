package link

import (
	"cmp"
	"math"
	"reflect"
	"slices"

	"wunderkammer/core/curve"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

// Along returns the curve of a stagger: what it is multiplied by at a share of the row. Before its first stop and behind its last it
// stays as it is there.
func Along(stops []scene.MapStop) func(share float64) float64 {
	at, out, easings := make([]float64, len(stops)), make([]float64, len(stops)), make([]curve.Easing, len(stops))
	for k, s := range stops {
		at[k], out[k], easings[k] = s.In, s.Out.At(0), s.Easing
	}
	track := curve.New(at, out, easings)
	return track.At
}

// Alone returns the link that does by itself at a member what one on a row does there, where stagger is multiplied by counted; nil where
// there is no such link: its formula asks for other members or counts them, it is one of a graph, or it would look ahead.
func Alone(l *scene.Link, counted float64) *scene.Link {
	if kind := Of(l); kind.Graphed || kind.Formula != nil && syntax.AsksRow(kind.Formula(l)) {
		return nil
	}
	out := l.Clone()
	s := out.Stagger
	if out.Stagger = nil; s == nil {
		return out
	}
	out.Offset += float64(s.Offset * counted)
	for k, x := range s.Offsets {
		for len(out.Offsets) <= k {
			out.Offsets = append(out.Offsets, 0)
		}
		out.Offsets[k] += float64(x * counted)
	}
	out.Gain += float64(s.Gain * counted)
	if out.Delay += float64(s.Delay * counted); out.Delay < 0 {
		return nil
	}
	return out
}

// Together returns the link that does on a row what single links do on its members, and the order in which these come in it: from one to
// the next they may grow by the same delay, offset and gain. ok is false where there is none.
func Together(links []*scene.Link) (l *scene.Link, order []int, ok bool) {
	bare := func(l *scene.Link) *scene.Link {
		out := l.Clone()
		out.ID, out.Component, out.Offset, out.Gain, out.Delay, out.Stagger = "", "", 0, 0, 0, nil
		return out
	}
	for k, one := range links {
		if Alone(one, 0) == nil || one.Draft != "" || (one.Component == "") != (links[0].Component == "") || k > 0 && !reflect.DeepEqual(bare(one), bare(links[0])) {
			return nil, nil, false
		}
		order = append(order, k)
	}
	grows := []func(*scene.Link) float64{
		func(l *scene.Link) float64 { return l.Delay }, func(l *scene.Link) float64 { return l.Offset }, func(l *scene.Link) float64 { return l.Gain },
	}
	slices.SortStableFunc(order, func(a, b int) int {
		for _, x := range grows {
			if c := cmp.Compare(x(links[a]), x(links[b])); c != 0 {
				return c
			}
		}
		return 0
	})
	var steps [3]float64
	for n, x := range grows {
		first := x(links[order[0]])
		if len(order) > 1 {
			steps[n] = x(links[order[1]]) - first
		}
		for k, at := range order {
			if want := first + float64(steps[n]*float64(k)); math.Abs(x(links[at])-want) > 1e-9*(1+math.Abs(want)) {
				return nil, nil, false
			}
		}
	}
	l = links[order[0]].Clone()
	if l.Stagger = nil; steps != [3]float64{} {
		l.Stagger = &scene.Stagger{Delay: steps[0], Offset: steps[1], Gain: steps[2]}
	}
	return l, order, true
}
