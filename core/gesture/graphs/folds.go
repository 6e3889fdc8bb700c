package graphs

import (
	"fmt"
	"strconv"

	"wunderkammer/core/change"
	"wunderkammer/core/gesture"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// FoldSlips folds slips into one, which shows the inputs and outputs that lead out of them, and the inputs that still lack
// something.
type FoldSlips struct {
	Graph scene.ID   `json:"graph"`
	Slips []scene.ID `json:"slips"`
	Title string     `json:"title,omitempty"`
}

// Do returns the operations that add the fold and put the slips into it.
func (g *FoldSlips) Do(c *gesture.Context) (gesture.Result, error) {
	on, err := c.Graph(g.Graph)
	if err != nil {
		return gesture.Result{}, err
	}
	slips := withInner(on, g.Slips)
	if len(slips) == 0 {
		return gesture.Result{}, fmt.Errorf("select the slips to fold first")
	}
	within := map[scene.ID]bool{}
	for _, s := range slips {
		within[s.ID] = true
	}
	fold := &scene.Slip{ID: c.NewID(), Kind: scene.FoldSlip, Title: g.Title, At: slips[0].At, Within: slips[0].Within}
	if fold.Title == "" {
		fold.Title = "Fold"
	}
	fold.Ports = portsOf(on, slips, within)
	r := gesture.Result{Made: []scene.ID{fold.ID}}
	r.Ops = append(r.Ops, &change.SlipAdd{In: c.In(), Graph: on.ID, Value: fold, At: -1})
	for _, s := range slips {
		if within[s.Within] {
			continue // it goes along with the fold that it lies in
		}
		if s.Within != fold.Within {
			return gesture.Result{}, fmt.Errorf("%s is in another fold than the others; fold slips that lie side by side", graph.Called(s))
		}
		fold.At = [2]float64{min(fold.At[0], s.At[0]), min(fold.At[1], s.At[1])}
		inside := s.Clone()
		inside.Within = fold.ID
		r.Ops = append(r.Ops, &change.SlipSet{In: c.In(), Graph: on.ID, Value: inside})
	}
	return r, nil
}

// portsOf lists the inputs and outputs of slips that a fold of them shows.
func portsOf(g *scene.Graph, slips []*scene.Slip, within map[scene.ID]bool) (ports []scene.FoldPort) {
	taken := map[string]bool{}
	name := func(base string) string {
		name := base
		for k := 2; taken[name]; k++ {
			name = base + " " + strconv.Itoa(k)
		}
		taken[name] = true
		return name
	}
	inputs := graph.AllInputs(g)
	for _, s := range slips {
		few, _ := graph.Arity(s)
		for k, in := range inputs[s.ID] {
			w, _ := g.WireTo(s.ID, in.Key)
			lacks := w == nil && s.Fields[in.Key] == "" && k < few
			if lacks || w != nil && !within[w.From] {
				base := in.Name
				if s.Title != "" || base == "" {
					base = graph.Called(s)
				}
				ports = append(ports, scene.FoldPort{Slip: s.ID, Key: in.Key, Name: name(base)})
			}
		}
	}
	shown := map[graph.Source]bool{}
	for _, w := range g.Wires {
		out := graph.Source{Slip: w.From, Out: w.Out}
		if within[w.From] && !within[w.To] && !shown[out] {
			shown[out] = true
			from, _ := g.Slip(w.From)
			base := graph.Called(from)
			if w.Out != "" {
				base += "." + w.Out
			}
			ports = append(ports, scene.FoldPort{Slip: w.From, Key: w.Out, Out: true, Name: name(base)})
		}
	}
	for _, s := range slips { // what leads nowhere yet is what it gives
		if len(shown) == 0 && graph.Gives(s) && s.Kind != scene.WordsSlip && !leads(g, s.ID) {
			ports = append(ports, scene.FoldPort{Slip: s.ID, Out: true, Name: name(graph.Called(s))})
		}
	}
	return ports
}

func leads(g *scene.Graph, id scene.ID) bool {
	for _, w := range g.Wires {
		if w.From == id {
			return true
		}
	}
	return false
}

// Unfold takes the slips out of a fold, and the fold away.
type Unfold struct {
	Graph scene.ID `json:"graph"`
	Slip  scene.ID `json:"slip"`
}

// Do returns the operations that do so.
func (g *Unfold) Do(c *gesture.Context) (gesture.Result, error) {
	on, err := c.Graph(g.Graph)
	if err != nil {
		return gesture.Result{}, err
	}
	fold, _ := on.Slip(g.Slip)
	if fold == nil || fold.Kind != scene.FoldSlip {
		return gesture.Result{}, fmt.Errorf("that is no longer a fold")
	}
	var r gesture.Result
	for _, s := range on.Slips {
		if s.Within == fold.ID {
			out := s.Clone()
			out.Within = fold.Within
			r.Ops = append(r.Ops, &change.SlipSet{In: c.In(), Graph: on.ID, Value: out})
			r.Made = append(r.Made, s.ID)
		}
	}
	r.Ops = append(r.Ops, &change.SlipRemove{In: c.In(), Graph: on.ID, Slip: fold.ID})
	return r, nil
}
