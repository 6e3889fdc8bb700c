package syntax

import (
	"strconv"
	"strings"

	"wunderkammer/core/scene"
)

// Phrases read functions out; $1 stands for the first argument, $* for all, $> for all but the first. A function without a phrase
// is read as its name of its arguments.
var Phrases = map[string]string{
	"abs": "the size of $1", "sign": "the sign of $1", "floor": "$1 rounded down", "ceil": "$1 rounded up", "round": "$1 rounded", "fract": "the fractional part of $1", "mod": "the remainder of $1 ÷ $2",
	"min": "the smallest of $*", "max": "the largest of $*", "clamp": "$1 limited to $2…$3", "pow": "$1 to the power of $2", "sqrt": "the square root of $1",
	"mix": "$1 mixed with $2 by $3", "mixlight": "$1 mixed with $2 by $3, as light", "step": "1 from where $2 reaches $1", "smoothstep": "a smooth step of $3 from $1 to $2", "map": "$1 mapped from $2…$3 to $4…$5", "stops": "the value at $1 between the stops", "if": "if $1: $2, otherwise $3", "pick": "option $1 of $>",
	"aim": "the angle from $1 to $2", "length": "the length of $1", "distance": "the distance from $1 to $2", "normalize": "the direction of $1", "along": "the point at $2 of the way along $1", "heading": "the angle of travel at $2 of the way along $1",
	"hue": "the hue of $1", "lightness": "the lightness of $1", "alpha": "$1 with an alpha of $2",
	"wave": "a wave over $1", "saw": "a sawtooth over $1", "square": "a square wave over $1", "triangle": "a triangle wave over $1", "noise": "noise along $1", "random": "random of $*",
	"delay": "$1 as it was $2 ago", "at": "$1 as it is at $2", "every": "$1 sampled every $2", "accumulate": "the running total of $1", "average": "the mean of $1 over $2", "loop": "$1 from $2 to $3, repeated",
	"sum": "the sum of $1", "mean": "the mean of $1", "least": "the least of $1", "greatest": "the greatest of $1", "count": "the number of $1", "first": "the first of $1", "last": "the last of $1", "nth": "number $2 of $1", "nearest": "the one of $1 nearest to $2", "weighted": "the mean of $1 weighted by $2",
	"text": "the text $*", "fixed": "$1 with $2 decimal places",
}

// Said returns how an operator between two sides is read out; nothing for what is none.
func Said(operator string) string { return spoken[operator] }

// operators read out.
var spoken = map[string]string{"+": "plus", "-": "minus", "*": "times", "/": "over", "^": "to the power of", "=": "is", "!=": "is not", "<": "is below", ">": "is above", "<=": "is at most", ">=": "is at least", "and": "and", "or": "or"}

// nearby reads out who a reference is about.
var nearby = map[string]string{"self": "itself", "parent": "its parent", "prev": "the one before", "next": "the one after", "first": "the first", "last": "the last", "partner": "its partner"}

// Read reads a formula out in plain words; nothing where it cannot be read.
func Read(text string) string {
	t, p := Parse(text)
	if p != nil {
		return ""
	}
	var out []string
	for _, l := range t.Lines {
		s := say(l.Value)
		if l.Name != "" {
			s = l.Name + " is " + s
		}
		out = append(out, s)
	}
	return strings.Join(out, ". ") + "."
}

// say reads an expression. What is made of parts stands in brackets inside another one, where else it could be read as belonging to
// that.
func say(n *Node) string {
	sub := func(i int) string { return inside(n.Args[i]) }
	switch n.Kind {
	case NodeNumber:
		unit := map[string]string{"f": " frames", "s": " seconds", "deg": "°", "turn": " turns", "rad": " radians"}[n.Text]
		if n.Number == 1 {
			unit = strings.TrimSuffix(unit, "s")
		}
		return scene.Exact(n.Number) + unit
	case NodeColour:
		return "a colour"
	case NodeText:
		return strconv.Quote(n.Text)
	case NodeName:
		if n.Text == "own" {
			return "its own value"
		}
		if n.Text == "below" {
			return "the value below"
		}
		return n.Text + further(n.Outer)
	case NodeRef:
		return n.Ref.words()
	case NodeElse:
		return sub(0) + ", or " + sub(1) + " if there is none"
	case NodePoint:
		return "the point of " + listed(n.Args)
	case NodePart:
		return n.Text + " of " + sub(0)
	case NodeNegative:
		return "minus " + sub(0)
	case NodeNot:
		return "not " + sub(0)
	case NodeCall:
		return call(n)
	}
	side := func(i int) string {
		if a := n.Args[i]; a.Kind == NodeBinary && a.Text == n.Text && (i == 0 && n.Text != "^" || n.Text == "+" || n.Text == "*" || n.Text == "and" || n.Text == "or") {
			return say(a) // in a row
		}
		return sub(i)
	}
	return side(0) + " " + spoken[n.Text] + " " + side(1)
}

// call reads out a function of its arguments.
func call(n *Node) string {
	phrase, ok := Phrases[n.Text]
	switch {
	case !ok:
		return n.Text + " of " + listed(n.Args)
	case n.Text == "round" && len(n.Args) == 2:
		phrase = "$1 rounded to $2 decimal places"
	case n.Text == "if": // its parts stand apart
		part := func(i int) string {
			if n.Args[i].Kind == NodeBinary {
				return say(n.Args[i])
			}
			return inside(n.Args[i])
		}
		return strings.NewReplacer("$1", part(0), "$2", part(1), "$3", part(2)).Replace(phrase)
	}
	with := []string{"$*", listed(n.Args), "$>", listed(n.Args[min(1, len(n.Args)):])}
	for i := range n.Args {
		with = append(with, "$"+strconv.Itoa(i+1), inside(n.Args[i]))
	}
	return strings.NewReplacer(with...).Replace(phrase)
}

// inside reads an expression that is a part of another one.
func inside(n *Node) string {
	if n.Kind == NodeBinary || n.Kind == NodeElse || n.Kind == NodeCall && n.Text == "if" {
		return "(" + say(n) + ")"
	}
	return say(n)
}

func listed(args []*Node) string {
	var out []string
	for _, a := range args {
		out = append(out, inside(a))
	}
	if n := len(out); n > 1 {
		return strings.Join(out[:n-1], ", ") + " and " + out[n-1]
	}
	return strings.Join(out, "")
}

// further says how many rosters further out something is meant.
func further(outer int) string {
	return strings.Repeat(" among the rows", min(outer, 1)) + strings.Repeat(" of rows", max(0, outer-1))
}

func (r *Reference) words() string {
	owner := r.Owner
	if r.Relative != "" {
		owner = nearby[r.Relative]
		if r.Steps > 1 {
			owner = map[string]string{"prev": "the one " + strconv.Itoa(r.Steps) + " before", "next": "the one " + strconv.Itoa(r.Steps) + " after"}[r.Relative]
		}
	}
	if r.Outer > 0 {
		owner += further(r.Outer)
	}
	if r.Many() {
		owner = r.gathering(owner)
	}
	if r.Property == "" {
		return owner
	}
	return strings.TrimSpace(Unquote(r.Property)) + " of " + owner
}
