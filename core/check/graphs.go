package check

import (
	"wunderkammer/core/change"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/graph"
	"wunderkammer/core/link"
	"wunderkammer/core/scene"
)

// graphs looks at the map slips of graphs: those whose stops lie beside the range of the control that is led to them. What
// keeps a graph from working is said of what it drives.
func (k *checker) graphs() {
	for _, g := range k.c.Graphs {
		slips := map[scene.ID]*scene.Slip{}
		for _, s := range g.Slips {
			slips[s.ID] = s
		}
		for _, w := range g.Wires {
			from, to := slips[w.From], slips[w.To]
			if from == nil || to == nil || from.Kind != scene.ReadSlip || to.Kind != scene.MapSlip {
				continue
			}
			refs := syntax.References(from.Text)
			if len(refs) != 1 || refs[0].Item == "" {
				continue
			}
			source := scene.Ref{Item: refs[0].Item, Property: refs[0].Key}
			stretched, sentence, label := link.Stretched(to.Stops, k.c, source)
			if stretched == nil {
				continue
			}
			mended := to.Clone()
			mended.Stops = stretched
			k.add(Warning, source, "the graph "+g.Name+": "+graph.Called(to)+" "+sentence, Fix{Label: label, Ops: change.Ops{&change.SlipSet{In: change.In{Composition: k.c.ID}, Graph: g.ID, Value: mended}}})
		}
	}
}
