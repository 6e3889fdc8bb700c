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
	b.WriteString("\n## Names that exist everywhere\n\n| slip | outputs |\n| --- | --- |\n")
	for _, w := range Words {
		fmt.Fprintf(&b, "| %s | %s |\n", w.Text, strings.Join(w.Outs, ", "))
	}
	fmt.Fprintf(&b, "\n## Functions\n\nEvery function of [formulas](formula.md) is a slip with its arguments as inputs: %d of them.\n", len(formula.Functions))
	fmt.Fprintf(&b, "\n## Limits\n\n%d graphs in a composition, %d slips and %d wires in each; the input of a drive slip has the limits of a formula.\n", scene.MaxGraphs, scene.MaxSlips, scene.MaxWires)
	return b.String()
}

const introduction = "# Graphs\n\n" +
	"This page is generated from the tables of slips (`core/graph`); a test keeps it up to date.\n\n" +
	"A graph is another way to write formulas: boxes, called slips, and the wires between them. It belongs to a composition. The input of a *drive* slip becomes a formula; each property that the slip drives has a link of kind graph in its stack, with weight, delay and everything else that links have. A graph gives exactly what its formula gives, at every frame.\n\n" +
	"## Slips\n\n" +
	"- **Read** slips give a property, a control, a vertex, or something of the row: `{prev: rotation}`. **Value** slips give a literal. **Map** slips hold stops, like map links, and are set in the same way. **Formula** slips hold a formula whose unknown names are their inputs. **Readout** slips show a value.\n" +
	"- **Folds** stand for the slips inside them, and show the inputs and outputs that lead out. A fold opens in place; wires are not affected. **Notes** are coloured sheets behind slips; the slips on them move along.\n" +
	"- A slip that has a title, or more than one outgoing wire, is a named value in the formula.\n\n" +
	"## Wires\n\n" +
	"- An input takes one wire, or a typed value. A wire starts at the whole value or at one component.\n" +
	"- A conversion on the way is written on the wire: `% → n`. If a wire isn't possible, that is said while you hold the cable, and a slip that would make it possible is one click away.\n" +
	"- Wires that would form a loop are refused. For feedback, read the driven property, `{self: rotation}`, through a delay.\n" +
	"- Everything before the first input of a time function is read at the other time; while the slip is selected, the ground under it is tinted.\n" +
	"- A slip that lacks something says so, and the links below its drive slip take over.\n\n" +
	"## By hand\n\n" +
	"- `/`, or a double-click on empty ground, finds everything that can be added: functions, operators, arithmetic such as `* 3`, controls, properties, vertices (`Crate vertex 3`), sets of items (`Lamp *: opacity`), and existing slips. So does dropping a cable on empty ground: it is then connected to what you choose, and offers the ports that are there, the selected properties and any property to drive before new slips.\n" +
	"- Drop jacks of the Desk and the Card, or items of the tree, on the sheet, on an input, or on a drive slip, which also finds properties by search, those of copies among them.\n" +
	"- Drop a slip on a cable to insert it. X takes a slip out of its cables; the gap closes. Ctrl D, C, X and V copy, Ctrl G folds; Del removes slips and reconnects the wires. Arrow keys follow the wires, and with Shift pick one more; Alt and arrow keys move what is picked, with Shift ten times as far. Enter goes into a slip, Enter keeps what was typed there and Esc drops it. L connects by typing, to a slip that is there or to a new one. F brings the slips into view as large as can be read, F again all of them. G pulls the sheet up; the small picture stays clear of slips, and is dragged to another corner by its strip and sized by its edge.\n" +
	"- A field holds one value: a number, a name, a reference. Anything made of parts, such as `2 + 1`, becomes a formula slip that is led there.\n" +
	"- A slip that reads many shows whose values they are and the first of them; its port has a ≡ before its letters. Arithmetic on it gives many again; `sum`, `mean`, `weighted` and the other list functions make one value.\n" +
	"- A value becomes a control of a null from the slip's menu. If every step of a graph has an inverse, it can be reversed from its drive slip: what it read is then driven by what it drove.\n" +
	"- Any link opens as a graph from its menu, and goes back with *Write as formula*.\n"
