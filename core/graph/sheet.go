package graph

import (
	"slices"
	"strings"

	"wunderkammer/core/scene"
)

// Sheet is all that the slips of a graph give, as the lines of one formula, so that all of it is worked out at once.
type Sheet struct {
	Text    string   // with a last line that says nothing
	Outputs []Source // what the lines are, one for each but the last
	ends    []int    // the byte behind each of these lines
}

// Line returns the line that a byte of the text is on, from 0; the number of outputs for the last one.
func (s *Sheet) Line(at int) int {
	line, _ := slices.BinarySearch(s.ends, at)
	return line
}

// Source is an output of a slip; of none: a line that a slip needs on the way.
type Source struct {
	Slip scene.ID `json:"slip"`
	Out  string   `json:"out,omitempty"` // component or word; empty for the whole value
}

// SheetOf writes the sheet of a graph without some slips and what comes from them, or without some words. Faults say what keeps slips from
// giving a value, one for each of them at most.
func SheetOf(g *scene.Graph, without map[Source]bool) (sheet Sheet, faults []Fault) {
	l := newLowerer(g)
	l.all, l.without = true, without
	said := map[scene.ID]bool{}
	note := func(err error) {
		if f := FaultOf(err); f != nil && f.Sentence != "" && !said[f.Slip] {
			said[f.Slip] = true
			faults = append(faults, *f)
		}
	}
	for _, s := range g.Slips {
		switch {
		case without[Source{Slip: s.ID}] || s.Kind == scene.NoteSlip || s.Kind == scene.FoldSlip:
		case s.Kind == scene.WordsSlip:
			l.words(s)
		case !Gives(s):
			if _, err := l.input(s, In, "the value"); err != nil {
				note(err)
			}
		default:
			e, err := l.slip(s)
			if err != nil {
				note(err)
			} else if l.at[s.ID] == 0 { // a leaf, which stands in others as it is
				l.line(Source{Slip: s.ID}, l.name(Called(s)), e.Text)
			}
		}
	}
	sheet = Sheet{Text: strings.Join(append(l.lines, "0"), "\n"), Outputs: l.outputs}
	end := -1
	for _, line := range l.lines {
		end += len(line) + 1
		sheet.ends = append(sheet.ends, end)
	}
	return sheet, faults
}

// words gives the words of a slip, each on a line.
func (l *lowerer) words(s *scene.Slip) {
	for _, w := range Words {
		for _, out := range w.Outs {
			if w.Text == s.Text && !l.without[Source{s.ID, out}] {
				l.line(Source{s.ID, out}, l.name(out), out)
			}
		}
	}
}
