package syntax

import (
	"strings"
)

// Sort tells expressions of a formula apart.
type Sort int

// The sorts of expressions.
const (
	Literal   Sort = iota // a number with its unit, a colour, a text, true or false; Text as it is written
	Word                  // a name: one that exists everywhere, or of a line; Text with the outers before it
	Refer                 // a reference; Text with its braces
	Apply                 // a function; Text its name
	Operate               // an operator; Text as in Operators
	Component             // Text is the component of the argument
)

// One reports whether an expression is one value as it stands, and is not made of parts.
func (e *Expression) One() bool { return e.Sort == Literal || e.Sort == Word || e.Sort == Refer }

// Operators that are no sign between two sides.
const (
	Negative  = "negative" // of one argument
	Not       = "not"      // of one argument
	Otherwise = "else"     // a reference, and what stands for it where it is missing
	Point     = "point"    // of two or three components
)

// Expression is what a formula is made of, for who shows it otherwise than as a text.
type Expression struct {
	Sort Sort
	Text string
	Args []*Expression
}

// Statement is one line of a formula: a value that has a name, or, without a name, the result.
type Statement struct {
	Name    string
	Value   *Expression
	Comment string // what is said behind it, and on lines of their own before it
}

// Syntax takes a formula apart; the last statement is the result.
func Syntax(text string) ([]Statement, *Problem) {
	t, p := Parse(text)
	if p != nil {
		return nil, p
	}
	out := make([]Statement, len(t.Lines))
	from := 0
	for k, l := range t.Lines {
		end := len(text)
		if newline := strings.IndexByte(text[l.Value.End:], '\n'); newline >= 0 {
			end = l.Value.End + newline
		}
		begin := l.Value.At
		if l.Name != "" {
			begin = l.At
		}
		out[k] = Statement{l.Name, expressed(l.Value, text), comments(text[from:begin] + "\n" + text[l.Value.End:end])}
		from = end
	}
	return out, nil
}

// comments returns what is said in comments of a text in which nothing else stands but signs.
func comments(text string) string {
	var said []string
	for _, line := range strings.Split(text, "\n") {
		if _, comment, ok := strings.Cut(line, "//"); ok {
			said = append(said, strings.TrimSpace(comment))
		}
	}
	return strings.Join(said, " ")
}

func expressed(n *Node, text string) *Expression {
	e := &Expression{Text: n.Text}
	for _, a := range n.Args {
		e.Args = append(e.Args, expressed(a, text))
	}
	switch n.Kind {
	case NodeNumber, NodeColour, NodeText:
		e.Sort, e.Text = Literal, strings.Trim(text[n.At:n.End], "() \t\n")
	case NodeName:
		e.Sort, e.Text = Word, strings.Repeat("outer ", n.Outer)+n.Text
		if n.Text == "true" || n.Text == "false" {
			e.Sort = Literal
		}
	case NodeRef:
		e.Sort, e.Text = Refer, strings.Trim(text[n.At:n.End], "() \t\n")
	case NodeCall:
		e.Sort = Apply
	case NodePart:
		e.Sort = Component
	case NodeNegative:
		if n.Args[0].Kind == NodeNumber {
			return &Expression{Sort: Literal, Text: "-" + e.Args[0].Text}
		}
		e.Sort, e.Text = Operate, Negative
	case NodeNot:
		e.Sort, e.Text = Operate, Not
	case NodePoint:
		e.Sort, e.Text = Operate, Point
	case NodeElse:
		e.Sort, e.Text = Operate, Otherwise
	default:
		e.Sort = Operate
	}
	return e
}
