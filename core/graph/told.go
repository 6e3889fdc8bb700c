package graph

import (
	"fmt"
	"strings"

	"wunderkammer/core/formula"
	"wunderkammer/core/scene"
)

// Told says in a line what a slip is and what comes to its inputs, with references by ids.
func Told(g *scene.Graph, s *scene.Slip) string {
	name := func(id scene.ID) string {
		from, _ := g.Slip(id)
		if from == nil {
			return "nothing"
		}
		if from.Kind == scene.ReadSlip || from.Kind == scene.ValueSlip {
			return from.Text
		}
		return Called(from)
	}
	out := Called(s)
	if s.Kind == scene.ReadSlip || s.Kind == scene.ValueSlip || s.Kind == scene.NoteSlip || s.Kind == scene.FormulaSlip {
		out += " " + s.Text
	}
	var ins []string
	for _, port := range Inputs(g, s) {
		called := port.Name
		if called == "" {
			called = port.Key
		}
		if w, _ := g.WireTo(s.ID, port.Key); w != nil {
			from := name(w.From)
			if w.Out != "" {
				from += " ." + w.Out
			}
			ins = append(ins, called+" from "+from)
		} else if text := s.Fields[port.Key]; text != "" {
			ins = append(ins, called+" "+text)
		}
	}
	if len(ins) > 0 {
		out += ": " + strings.Join(ins, ", ")
	}
	return out
}

// Markdown writes the page about graphs from the tables of slips.
func Markdown() string {
	var b strings.Builder
	b.WriteString(introduction)
	b.WriteString("\n## Operators\n\n| slip | sign | what it gives | inputs |\n| --- | --- | --- | --- |\n")
	for _, o := range Operators {
		fmt.Fprintf(&b, "| %s | `%s` | %s | %s |\n", o.Name, o.Text, o.Help, strings.Join(o.Ins, ", "))
	}
	b.WriteString("\n## What is known everywhere\n\n| slip | outputs |\n| --- | --- |\n")
	for _, w := range Words {
		fmt.Fprintf(&b, "| %s | %s |\n", w.Text, strings.Join(w.Outs, ", "))
	}
	fmt.Fprintf(&b, "\n## Functions\n\nEvery function of [formulas](formula.md) is a slip with its arguments as inputs: %d of them.\n", len(formula.Functions))
	fmt.Fprintf(&b, "\n## Bounds\n\n%d graphs in a composition, %d slips and %d wires in each; what comes to a drive slip is bounded as a formula is.\n", scene.MaxGraphs, scene.MaxSlips, scene.MaxWires)
	return b.String()
}

const introduction = "# Graphs\n\n" +
	"This page is written from the tables of slips (`core/graph`); a test keeps it up to date.\n\n" +
	"A graph is another way to write formulas: boxes, called slips, and the wires between them. It belongs to a composition. What comes to a *drive* slip becomes a formula; each property that the slip drives has a link of kind graph in its stack, with weight, delay and all else that links have. So a graph gives what the formula gives, to the bit, at every frame.\n\n" +
	"- **Read** slips give a property, a control, or something of the row: `{prev: rotation}`. **Value** slips give a literal. **Formula** slips hold a formula whose unknown names are their inputs. **Readout** slips show a value, **notes** say something.\n" +
	"- An input takes one wire, or a value that is written into it. A wire leads from the whole value or from one component.\n" +
	"- A slip with a title, or that several wires leave, is a named value in the formula. What stands before a time function is looked at at the other time, as it is in a formula.\n" +
	"- A slip that lacks something says so, and what it drives is left to the links below. Wires that would run in a circle are refused.\n" +
	"- Any link opens as a graph from its menu, and goes back with *write as formula*. **Map** slips hold stops, as map links do.\n"
