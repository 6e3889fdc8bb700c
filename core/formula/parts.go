package formula

import "strings"

// Part is one expression inside a formula.
type Part struct {
	Text    string // as it stands there
	Formula string // the lines before it, with it as the result
}

// Parts lists the operations, calls and references of a formula, what is inside of others before them; none
// of one that cannot be read.
func Parts(text string) []Part {
	t, p := parse(text)
	if p != nil {
		return nil
	}
	var out []Part
	for _, l := range t.lines {
		before := text[:l.at]
		if l.name == "" {
			before = text[:strings.LastIndexByte(text[:l.value.at], '\n')+1]
		}
		var list func(n *node)
		list = func(n *node) {
			for _, a := range n.args {
				list(a)
			}
			if n.kind == nodeBinary || n.kind == nodeCall || n.kind == nodeRef {
				part := text[n.at:n.end]
				out = append(out, Part{part, before + part})
			}
		}
		list(l.value)
	}
	return out
}
