package graph

import (
	"cmp"
	"fmt"
	"slices"

	"wunderkammer/core/curve"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

// undone says which operator undoes another, by the input that the value is led to; where first is set, the value is led to
// the first input of that and what stood there to the second.
var undone = map[string][2]struct {
	by    string
	first bool
}{
	"+": {{"-", false}, {"-", true}}, "-": {{"+", false}, {"-", false}},
	"*": {{"/", false}, {"/", true}}, "/": {{"*", false}, {"/", false}},
	syntax.Negative: {{syntax.Negative, false}},
}

// TurnedRound turns a row of slips round that leads from one that reads to a drive slip, by way of first inputs, or of second
// ones where nothing is led to the first: what was given is what is taken then. It returns the slips as they are then, that
// which reads among them, all wires, and what was read.
func TurnedRound(g *scene.Graph, drive scene.ID) (slips []*scene.Slip, wires []*scene.Wire, read scene.Ref, err error) {
	path, err := pathTo(g, drive)
	if err != nil {
		return nil, nil, read, err
	}
	first, _ := g.Slip(path[0].From)
	refs := syntax.References(first.Text)
	if len(refs) != 1 || refs[0].Item == "" || refs[0].Key == "" {
		return nil, nil, read, fmt.Errorf("only a slip that reads a property of an item can be reversed")
	}
	read = scene.Ref{Item: refs[0].Item, Property: refs[0].Key, Component: cmp.Or(path[0].Out, refs[0].Part)}
	slips = []*scene.Slip{first.Clone()}
	for _, w := range g.Wires {
		if !slices.Contains(path, w) {
			kept := *w
			wires = append(wires, &kept)
		}
	}
	to, in := drive, In // where the slip that is turned leads: to the one that led to it
	for k, w := range path[:len(path)-1] {
		s, _ := g.Slip(w.To)
		if w.Out != "" && k > 0 {
			return nil, nil, read, fmt.Errorf("only one component of %s is used on the way, so the whole can't be recovered", Called(first))
		}
		turned, at, err := inverse(s, w.In, wires)
		if err != nil {
			return nil, nil, read, err
		}
		slips = append(slips, turned)
		wires = append(wires, &scene.Wire{From: s.ID, To: to, In: in})
		to, in = s.ID, at
		first = s
	}
	return slips, append(wires, &scene.Wire{From: slips[0].ID, To: to, In: in}), read, nil
}

// pathTo returns the wires from a slip that reads to a drive slip, in their order.
func pathTo(g *scene.Graph, drive scene.ID) (path []*scene.Wire, err error) {
	leads := map[scene.ID]int{}
	for _, w := range g.Wires {
		leads[w.From]++
	}
	in := In
	at := drive
	for range g.Slips {
		w, _ := g.WireTo(at, in)
		if w == nil {
			w, _ = g.WireTo(at, "2") // what is written into the first input stays there
		}
		if w == nil {
			return nil, fmt.Errorf("no chain of wires leads from what is read to what is driven")
		}
		path = append(path, w)
		s, _ := g.Slip(w.From)
		if leads[s.ID] > 1 {
			return nil, fmt.Errorf("%s leads to more than one slip, so it can't be reversed", Called(s))
		}
		if s.Kind == scene.ReadSlip {
			slices.Reverse(path)
			return path, nil
		}
		at, in = s.ID, First
	}
	return nil, fmt.Errorf("the wires form a loop")
}

// inverse returns what undoes a slip for the value at one of its inputs, and the input that the value is led to then. What
// is led to the other input goes along; wires are altered where it has to change its place.
func inverse(s *scene.Slip, in string, wires []*scene.Wire) (turned *scene.Slip, at string, err error) {
	turned = s.Clone()
	switch {
	case s.Kind == scene.MapSlip:
		return turned, in, turnStops(turned)
	case s.Kind == scene.ApplySlip && s.Text == "map" && in == First:
		for key, other := range map[string]string{"2": "4", "3": "5", "4": "2", "5": "3"} {
			turned.Fields[key] = s.Fields[other]
			if s.Fields[key] == "" {
				return nil, "", fmt.Errorf("the ends of map must be typed values for it to be reversed")
			}
		}
		return turned, in, nil
	}
	way, known := undone[s.Text]
	if k := numbered(in) - 1; s.Kind == scene.ApplySlip && known && k < 2 && way[k].by != "" {
		turned.Text = way[k].by
		if !way[k].first {
			return turned, in, nil
		}
		if text := s.Fields[First]; text != "" {
			delete(turned.Fields, First)
			turned.Fields["2"] = text
		}
		for _, w := range wires {
			if w.To == s.ID && w.In == First {
				w.In = "2"
			}
		}
		return turned, First, nil
	}
	return nil, "", fmt.Errorf("%s can't be reversed: it has no inverse", Called(s))
}

// turnStops makes a map lead from what it gave to what it was given.
func turnStops(s *scene.Slip) error {
	for k, stop := range s.Stops {
		if stop.Out.Len() != 1 || k < len(s.Stops)-1 && stop.Easing != curve.Linear {
			return fmt.Errorf("only a linear map from number to number can be reversed")
		}
		s.Stops[k].In, s.Stops[k].Out = stop.Out.At(0), scene.Num(stop.In)
	}
	if s.Stops[0].In > s.Stops[len(s.Stops)-1].In {
		slices.Reverse(s.Stops)
	}
	if scene.CheckMapStops(s.Stops, s.Beyond, scene.Number) != nil {
		return fmt.Errorf("a map that both rises and falls can't be reversed")
	}
	return nil
}
