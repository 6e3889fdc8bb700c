package formula

import (
	"slices"
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
	t, p := parse(text)
	if p != nil {
		return nil, p
	}
	out := make([]Statement, len(t.lines))
	from := 0
	for k, l := range t.lines {
		end := len(text)
		if newline := strings.IndexByte(text[l.value.end:], '\n'); newline >= 0 {
			end = l.value.end + newline
		}
		begin := l.value.at
		if l.name != "" {
			begin = l.at
		}
		out[k] = Statement{l.name, expressed(l.value, text), comments(text[from:begin] + "\n" + text[l.value.end:end])}
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

func expressed(n *node, text string) *Expression {
	e := &Expression{Text: n.text}
	for _, a := range n.args {
		e.Args = append(e.Args, expressed(a, text))
	}
	switch n.kind {
	case nodeNumber, nodeColour, nodeText:
		e.Sort, e.Text = Literal, strings.Trim(text[n.at:n.end], "() \t\n")
	case nodeName:
		e.Sort, e.Text = Word, strings.Repeat("outer ", n.outer)+n.text
		if n.text == "true" || n.text == "false" {
			e.Sort = Literal
		}
	case nodeRef:
		e.Sort, e.Text = Refer, strings.Trim(text[n.at:n.end], "() \t\n")
	case nodeCall:
		e.Sort = Apply
	case nodePart:
		e.Sort = Component
	case nodeNegative:
		if n.args[0].kind == nodeNumber {
			return &Expression{Sort: Literal, Text: "-" + e.Args[0].Text}
		}
		e.Sort, e.Text = Operate, Negative
	case nodeNot:
		e.Sort, e.Text = Operate, Not
	case nodePoint:
		e.Sort, e.Text = Operate, Point
	case nodeElse:
		e.Sort, e.Text = Operate, Otherwise
	default:
		e.Sort = Operate
	}
	return e
}

// IsWord reports whether a name has a meaning everywhere, so that no value can have it.
func IsWord(name string) bool {
	return builtins[name] != nil || functions[name] != nil || words[name] || name == "outer"
}

// FunctionOf returns a function by its name, or nil.
func FunctionOf(name string) *Function { return functions[name] }

// Arity returns how many arguments a function takes at least and at most.
func (f *Function) Arity() (least, most int) { return f.least, f.most }

// Elsewhen reports whether a function looks at its first argument at other times.
func (f *Function) Elsewhen() bool { return f.Group == timesGroup }

// Arguments returns what the arguments are called, where there are so many of them.
func (f *Function) Arguments(count int) []string {
	var best []string
	for _, usage := range strings.Split(f.Usage, " or ") {
		_, list, _ := strings.Cut(strings.TrimSuffix(usage, ")"), "(")
		names := strings.Split(list, ", ")
		if more := slices.Index(names, "…"); more >= 0 {
			names = names[:more]
		}
		if best == nil || len(names) == count || len(best) < count && len(names) > len(best) {
			best = names
		}
	}
	for len(best) < count { // one that goes on
		best = append(best, "")
	}
	return best[:count]
}

// Unknown lists the names of a formula that are neither those of its lines nor known everywhere, in the order in which
// they come; nothing of a formula that cannot be read.
func Unknown(text string) []string {
	var out []string
	statements, p := Syntax(text)
	if p != nil {
		return nil
	}
	known := map[string]bool{}
	var walk func(e *Expression)
	walk = func(e *Expression) {
		if e.Sort == Word && !known[e.Text] && !IsWord(e.Text) && !strings.Contains(e.Text, " ") && !slices.Contains(out, e.Text) {
			out = append(out, e.Text)
		}
		for _, a := range e.Args {
			walk(a)
		}
	}
	for _, s := range statements {
		walk(s.Value)
		known[s.Name] = true
	}
	return out
}
