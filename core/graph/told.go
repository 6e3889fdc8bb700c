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
	if s.Kind == scene.MapSlip {
		for _, stop := range s.Stops {
			out += fmt.Sprintf(", at %s %s", scene.Exact(stop.In), stop.Out)
		}
	}
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
	"## Slips\n\n" +
	"- **Read** slips give a property, a control, a vertex, or something of the row: `{prev: rotation}`. **Value** slips give a literal. **Map** slips hold stops, as map links do, and are marked like them. **Formula** slips hold a formula whose unknown names are their inputs. **Readout** slips show a value.\n" +
	"- **Folds** stand for slips that lie in them, and show the inputs and outputs that lead out. A fold opens in its place; wires do not mind it. **Notes** are coloured sheets behind slips, which move with them.\n" +
	"- A slip with a title, or that several wires leave, is a named value in the formula.\n\n" +
	"## Wires\n\n" +
	"- An input takes one wire, or a value that is written into it. A wire leads from the whole value or from one component.\n" +
	"- What a value is turned into on its way is written on the wire: `% → n`. Where it cannot be led, that is said while the cable is in the hand, and what would help is put between by a press.\n" +
	"- Wires that would run in a circle are refused. Feedback goes by way of the property that is driven: `{self: rotation}`, read through a delay.\n" +
	"- What stands before the first input of a time function is looked at at the other time; while the slip is picked, the ground under it is tinted.\n" +
	"- A slip that lacks something says so, and what it drives is left to the links below.\n\n" +
	"## By hand\n\n" +
	"- `/`, or a double click on empty ground, finds what can be put down: functions, operators, arithmetic such as `* 3`, controls, properties, vertices (`Crate vertex 3`), and slips that are there. A cable that is let go over empty ground does so, too, and is led to what is found.\n" +
	"- Jacks of the Desk and the Card are dropped on the sheet, on an input, or on a drive slip; items of the tree likewise.\n" +
	"- A slip that is dropped on a cable goes between. Dragged with Alt, it is pulled out, and the gap closes. Ctrl D, C, X and V copy, Ctrl G folds; Del removes and heals the wires. Arrows go along the wires, Enter opens, L leads a cable to what is typed, F brings all into sight, G pulls the sheet up.\n" +
	"- A value becomes a control of a null from the slip's menu. A graph of what undoes itself is turned round from its drive slip: what it read is driven by what it drove.\n" +
	"- Any link opens as a graph from its menu, and goes back with *write as formula*.\n"
