package change

import (
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/graph"
	"wunderkammer/core/scene"
)

// AsWas says that something is put back as it was: what its formulas name is not looked up anew.
type AsWas struct {
	AsWas bool `json:"asWas,omitempty"`
}

// bound is a slip that names what is there by its id.
func (a AsWas) bound(s *scene.Slip, c *scene.Composition) *scene.Slip {
	if a.AsWas {
		return s.Clone()
	}
	return graph.Bind(s, c)
}

// link returns a copy of a link in whose formula ids stand for names, as far as they can be found.
func (a AsWas) link(l *scene.Link, p *scene.Project, in In, item *scene.Item, spec *scene.Spec) *scene.Link {
	out := l.Clone()
	c := p.Composition(in.Composition)
	if !a.AsWas {
		out.Formula = binding.BindNames(l.Formula, c, item, spec)
	}
	graph.Write(out, c)
	return out
}
