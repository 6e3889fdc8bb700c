package syntax

import "strings"

// Piece is a piece of a formula that is being written.
type Piece struct {
	Text  string
	Depth int // of nesting
	level int
}

// The levels of precedence that pieces stand at, the loosest first.
const (
	levelOr = iota
	levelAnd
	levelNot
	levelCompare
	levelSum
	levelProduct
	levelSign
	levelPower
	levelPart // behind which a component stands
	levelWhole
)

// signLevels are those of the operators that stand between two sides.
var signLevels = map[string]int{
	"or": levelOr, "and": levelAnd, "=": levelCompare, "!=": levelCompare, "<": levelCompare, ">": levelCompare, "<=": levelCompare, ">=": levelCompare,
	"+": levelSum, "-": levelSum, "*": levelProduct, "/": levelProduct, "^": levelPower,
}

// Whole is a literal, a word or a reference.
func Whole(text string) Piece {
	if strings.HasPrefix(text, "-") {
		return Piece{text, 1, levelSign}
	}
	return Piece{text, 1, levelWhole}
}

// Loose is any expression, which stands in brackets wherever it is a part of something.
func Loose(text string) Piece { return Piece{text, MaxDepth / 4, levelOr} }

// Apart cuts a formula into what comes before its last line, and that: its result.
func Apart(text string) (before, last string, ok bool) {
	t, p := Parse(text)
	if p != nil || len(t.Lines) == 0 {
		return "", "", false
	}
	n := t.Lines[len(t.Lines)-1].Value
	return text[:n.At], text[n.At:n.End], true
}

// within returns the piece as it stands where a level is asked for.
func (p Piece) within(level int) string {
	if p.level < level {
		return "(" + p.Text + ")"
	}
	return p.Text
}

// Part returns the text of a component of a piece, as {Box: position}.x; the piece is put in brackets where it has to be.
func (p Piece) Part(component string) Piece {
	return Piece{p.within(levelPart) + "." + component, p.Depth + 1, levelPart}
}

// Call returns the text of a call of a function with pieces as its arguments.
func Call(function string, args ...Piece) Piece {
	return Piece{function + "(" + listOf(args) + ")", deeper(args), levelWhole}
}

// Operation is an operator of pieces, in brackets where it has to be.
func Operation(operator string, args ...Piece) Piece {
	text, level := "", signLevels[operator]
	switch operator {
	case Point:
		text, level = "["+listOf(args)+"]", levelWhole
	case Negative:
		text, level = "-"+args[0].within(levelSign), levelSign
	case Not:
		text, level = "not "+args[0].within(levelNot), levelNot
	case Otherwise:
		text, level = args[0].within(levelPart)+" else "+args[1].within(levelSign), levelPart
	case "^":
		text = args[0].within(levelPart) + " ^ " + args[1].within(levelSign)
	default:
		left := level
		if level == levelCompare { // which do not follow each other
			left++
		}
		text = args[0].within(left) + " " + operator + " " + args[1].within(level+1)
	}
	return Piece{text, deeper(args), level}
}

func listOf(args []Piece) string {
	texts := make([]string, len(args))
	for k, a := range args {
		texts[k] = a.Text
	}
	return strings.Join(texts, ", ")
}

func deeper(args []Piece) int {
	depth := 0
	for _, a := range args {
		depth = max(depth, a.Depth)
	}
	return depth + 1
}

// Write writes an expression, with pieces in place of some words.
func (e *Expression) Write(given map[string]Piece) Piece {
	args := make([]Piece, len(e.Args))
	for k, a := range e.Args {
		args[k] = a.Write(given)
	}
	switch e.Sort {
	case Word:
		if p, ok := given[e.Text]; ok {
			return p
		}
	case Apply:
		return Call(e.Text, args...)
	case Operate:
		return Operation(e.Text, args...)
	case Component:
		return args[0].Part(e.Text)
	}
	return Whole(e.Text)
}
