package link

import (
	"fmt"
	"strings"

	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// A graph link gives what comes to a drive slip of a graph: the formula that this comes to stands in it.
func init() {
	register(byFormula(&Kind{
		Key: scene.Graphed, Name: "Graph", Graphed: true, Called: graphCalled,
		Check: func(l *scene.Link, _ *scene.Spec) error {
			if l.Graph == "" || l.Slip == "" {
				return fmt.Errorf("a graph link names a graph and one of its drive slips")
			}
			return bounded(l)
		},
		Broken: ungraphed,
	}))
}

// ungraphed says what is wrong with what comes to the drive slip of a link.
func ungraphed(l *scene.Link, s *Sight) *Fault {
	g, _ := s.Composition.Graph(l.Graph)
	if g == nil {
		return &Fault{Sentence: "the graph that drives this was removed"}
	}
	if _, err := graph.Lower(g, l.Slip); err != nil {
		return &Fault{Sentence: fmt.Sprintf("the graph %s gives no value here: %s", g.Name, err)}
	}
	if sentence := wrong(s.compile(l.Formula)); sentence != "" {
		return &Fault{Sentence: fmt.Sprintf("the graph %s has an error: %s", g.Name, sentence)}
	}
	return nil
}

// graphCalled names a graph, and the slips with titles by whose way it comes to what it drives.
func graphCalled(l *scene.Link, c *scene.Composition) (called, by string) {
	g, _ := c.Graph(l.Graph)
	if g == nil {
		return "the graph", "a graph that was removed"
	}
	called = "the graph " + g.Name
	before := graph.Before(g, l.Slip)
	var titles []string
	for _, s := range g.Slips {
		if before[s.ID] && s.Title != "" && s.ID != l.Slip {
			titles = append(titles, s.Title)
		}
	}
	if len(titles) == 0 {
		return called, called
	}
	if most := 5; len(titles) > most {
		titles = append(titles[:most], "others")
	}
	return called, called + " by way of " + strings.Join(titles, ", ")
}
