package syntax

import "strings"

// Part is one expression inside a formula.
type Part struct {
	Text    string // as it stands there
	Formula string // the lines before it, with it as the result
}

// Parts lists the operations, calls and references of a formula, what is inside of others before them; none
// of one that cannot be read.
func Parts(text string) []Part {
	t, p := Parse(text)
	if p != nil {
		return nil
	}
	var out []Part
	for _, l := range t.Lines {
		before := text[:l.At]
		if l.Name == "" {
			before = text[:strings.LastIndexByte(text[:l.Value.At], '\n')+1]
		}
		var list func(n *Node)
		list = func(n *Node) {
			for _, a := range n.Args {
				list(a)
			}
			if n.Kind == NodeBinary || n.Kind == NodeCall || n.Kind == NodeRef {
				part := text[n.At:n.End]
				out = append(out, Part{part, before + part})
			}
		}
		list(l.Value)
	}
	return out
}
