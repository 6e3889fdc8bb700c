package link

import (
	"fmt"

	"wunderkammer/core/formula"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// A graph link gives what comes to a drive slip of a graph: the formula that this comes to stands in it.
func init() {
	register(&Kind{
		Key: scene.Graphed, Name: "Graph", Graphed: true, Called: "the graph", By: "a graph",
		Check: func(l *scene.Link, _ *scene.Spec) error {
			if len(l.Formula) > scene.MaxFormula {
				return fmt.Errorf("a formula is at most %d bytes long", scene.MaxFormula)
			}
			if l.Graph == "" || l.Slip == "" {
				return fmt.Errorf("a graph link names a graph and one of its drive slips")
			}
			return nil
		},
		Formula:     func(l *scene.Link) string { return l.Formula },
		References:  func(l *scene.Link) []*formula.Reference { return formula.References(l.Formula) },
		PassesBelow: func(l *scene.Link) bool { return formula.AsksBelow(l.Formula) },
		Rename: func(l *scene.Link, to func(scene.ID) (scene.ID, bool)) {
			l.Formula = formula.Renamed(l.Formula, to)
			for _, id := range []*scene.ID{&l.Graph, &l.Slip} {
				if other, ok := to(*id); ok {
					*id = other
				}
			}
		},
		Broken: ungraphed,
		Hints: func(l *scene.Link, s *Sight) (out []Fault) {
			for _, p := range s.compile(l.Formula).Problems {
				out = append(out, Fault{Sentence: p.Sentence})
			}
			return out
		},
	})
}

// ungraphed says what is wrong with what comes to the drive slip of a link.
func ungraphed(l *scene.Link, s *Sight) *Fault {
	g, _ := s.Composition.Graph(l.Graph)
	if g == nil {
		return &Fault{Sentence: "the graph that drives this was removed"}
	}
	if _, err := graph.Lower(g, l.Slip); err != nil {
		return &Fault{Sentence: fmt.Sprintf("the graph %s gives nothing here: %s", g.Name, err)}
	}
	if sentence := wrong(s.compile(l.Formula)); sentence != "" {
		return &Fault{Sentence: fmt.Sprintf("the graph %s does not work: %s", g.Name, sentence)}
	}
	return nil
}
