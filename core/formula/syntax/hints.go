package syntax

import (
	"fmt"
	"regexp"
	"strings"

	"wunderkammer/core/scene"
)

// What people type who come from elsewhere, or from a text processor, and what is meant by it.

// foreignSigns says how a sign that means nothing here is written. What has no text is only explained.
var foreignSigns = map[string]struct{ text, sentence string }{
	"−": {"-", "a minus is written -"}, "–": {"-", "a minus is written -"}, "—": {"-", "a minus is written -"},
	"×": {"*", "times is written *"}, "·": {"*", "times is written *"}, "⋅": {"*", "times is written *"},
	"÷": {"/", "divided by is written /"}, "∕": {"/", "divided by is written /"}, ":": {"", "a colon is only used in references such as {Owner: property}"},
	"≤": {"<=", "at most is written <="}, "≥": {">=", "at least is written >="},
	"&&": {"and", "and is written and"}, "&": {"and", "and is written and"}, "||": {"or", "or is written or"}, "|": {"or", "or is written or"}, "!": {"not ", "not is written not"},
	";": {"\n", "a new line ends a named value, not a semicolon"},
	"“": {"\"", "a text stands in straight quotes"}, "”": {"\"", "a text stands in straight quotes"}, "„": {"\"", "a text stands in straight quotes"}, "'": {"\"", "a text stands in straight double quotes"}, "‘": {"\"", "a text stands in straight quotes"}, "’": {"\"", "a text stands in straight quotes"},
	"…": {"", "three dots mean nothing here; write all of it"},
}

// foreign says of a sign that means nothing what is meant by it.
func (s *scanner) foreign(c rune, size int) *Problem {
	p := &Problem{At: s.at, End: s.at + size, Sentence: fmt.Sprintf("%q isn't allowed in a formula", c)}
	switch rest := s.text[s.at:]; {
	case c == '%':
		return s.percent()
	case c == '?':
		p.Sentence = "a choice is written if(condition, a, b)"
		p.Fixes = rewritten(s.text, s.at, choice, "if($1, $2, $3)")
		return p
	case strings.HasPrefix(rest, "&&"), strings.HasPrefix(rest, "||"):
		c, size = 0, 2
	}
	if f, ok := foreignSigns[s.text[s.at:s.at+size]]; ok {
		p.End, p.Sentence = s.at+size, f.sentence
		if f.text != "" {
			label := "write " + strings.TrimSpace(f.text)
			if f.text == "\n" {
				label = "begin a new line"
			}
			p.Fixes = []Fix{{label, s.at, s.at + size, f.text}}
		}
	}
	return p
}

var (
	choice     = regexp.MustCompile(`^(.*?)\s*\?\s*(.*?)\s*:\s*(.*)$`)
	condition  = regexp.MustCompile(`^if\s+(.*?)\s+then\s+(.*?)\s+else\s+(.*)$`)
	remainder  = regexp.MustCompile(`^(.*?)([\w.]+|\{[^{}]*\}|\([^()]*\))\s*%\s*([\w.]+|\{[^{}]*\}|\([^()]*\))(.*)$`)
	assignment = regexp.MustCompile(`^\s*[\p{L}_][\p{L}\d_]*\s*=\s*`)
)

// rewritten offers the expression of the line that a place is on in another form, where it has the one that is looked for.
func rewritten(text string, at int, from *regexp.Regexp, to string) []Fix {
	start := strings.LastIndexByte(text[:at], '\n') + 1
	end := len(text)
	if n := strings.IndexByte(text[at:], '\n'); n >= 0 {
		end = at + n
	}
	start += len(assignment.FindString(text[start:end]))
	if start > at || !from.MatchString(text[start:end]) {
		return nil
	}
	made := from.ReplaceAllString(text[start:end], to)
	return []Fix{{"write " + made, start, end, made}}
}

// percent says what is meant by a percent sign: a unit, or the remainder.
func (s *scanner) percent() *Problem {
	p := &Problem{At: s.at, End: s.at + 1}
	if fixes := rewritten(s.text, s.at, remainder, "${1}mod($2, $3)$4"); fixes != nil {
		p.Sentence, p.Fixes = "the remainder of a division is written mod(a, b)", fixes
		return p
	}
	p.Sentence = "a percentage is written as its number: 50 for a property in percent, 0.5 for a factor"
	if n := len(s.out); n > 0 && s.out[n-1].Kind == tokenNumber && s.out[n-1].Text == "" {
		of := s.out[n-1]
		p.Fixes = []Fix{{"write " + scene.Exact(of.number), of.at, p.End, scene.Exact(of.number)}, {"write " + scene.Exact(of.number/100), of.at, p.End, scene.Exact(of.number / 100)}}
	}
	return p
}

// unitWords are units that numbers are not written with, since they are in that of what they are for.
var unitWords = map[string]bool{"px": true, "pixels": true, "pixel": true, "pct": true, "percent": true, "m": true, "cm": true, "mm": true, "pt": true, "em": true}

// unitNames are those that have another name here.
var unitNames = map[string]string{"sec": "s", "secs": "s", "second": "s", "seconds": "s", "frame": "f", "frames": "f", "fr": "f", "degrees": "deg", "degree": "deg", "d": "deg", "turns": "turn", "radians": "rad"}

func noUnit(name string, at, end int) *Problem {
	p := &Problem{At: at, End: end, Sentence: fmt.Sprintf("%q is not a unit; use f (frames), s (seconds), deg, turn or rad", name)}
	switch {
	case unitWords[strings.ToLower(name)]:
		p.Sentence = fmt.Sprintf("a number takes the unit of its property; leave out %s", name)
		p.Fixes = []Fix{{"leave it out", at, end, ""}}
	case unitNames[strings.ToLower(name)] != "":
		p.Fixes = []Fix{{"write " + unitNames[strings.ToLower(name)], at, end, unitNames[strings.ToLower(name)]}}
	default:
		p.Fixes = []Fix{{"multiply", at, at, " * "}}
	}
	return p
}

// hint says of a token that cannot stand where it is what is meant by it; nil where that is not known.
func (r *parser) hint(t token) *Problem {
	var before token
	if r.at > 0 {
		before = r.tokens[r.at-1]
	}
	next := token{}
	if r.at+1 < len(r.tokens) {
		next = r.tokens[r.at+1]
	}
	switch {
	case t.Text == "(" && r.at > 2 && before.Kind == tokenName && r.tokens[r.at-2].Text == "." && r.tokens[r.at-3].Kind == tokenName:
		library := r.tokens[r.at-3]
		return &Problem{At: library.at, End: before.end, Sentence: "functions are written by their names alone", Fixes: []Fix{{"write " + before.Text, library.at, before.end, before.Text}}}
	case t.Text == "," && before.Kind == tokenNumber && next.Kind == tokenNumber && before.Text == "" && before.end == t.at && t.end == next.at:
		made := r.text[before.at:before.end] + "." + r.text[next.at:next.end]
		return &Problem{At: before.at, End: next.end, Sentence: "the decimal point is a point", Fixes: []Fix{{"write " + made, before.at, next.end, made}}}
	case t.Text == "*" && before.Text == "*" && t.Kind == tokenSign && before.Kind == tokenSign:
		return &Problem{At: before.at, End: t.end, Sentence: "to the power of is written ^", Fixes: []Fix{{"write ^", before.at, t.end, "^"}}}
	case t.Kind == tokenName && before.Kind == tokenNumber && before.Text == "" && (unitWords[strings.ToLower(t.Text)] || unitNames[strings.ToLower(t.Text)] != "" || Units[t.Text].Factor != 0):
		p := noUnit(t.Text, t.at, t.end)
		if Units[t.Text].Factor != 0 {
			p.Sentence = "a unit goes directly after its number"
			p.Fixes = []Fix{{"write " + r.text[before.at:before.end] + t.Text, before.at, t.end, r.text[before.at:before.end] + t.Text}}
			return p
		}
		for k := range p.Fixes {
			p.Fixes[k].At = before.end
		}
		return p
	}
	return nil
}

// foreignWord says what is meant by a word that begins a line or a choice elsewhere.
func (r *parser) foreignWord(t token) *Problem {
	next := r.tokens[r.at+1]
	switch {
	case t.Text == "return" && !r.named["return"] && next.Kind != tokenSign:
		return &Problem{At: t.at, End: t.end, Sentence: "the last line is the result by itself", Fixes: []Fix{{"leave out return", t.at, next.at, ""}}}
	case t.Text == "if" && !(next.Kind == tokenSign && next.Text == "("):
		return &Problem{At: t.at, End: t.end, Sentence: "a choice is written if(condition, a, b)", Fixes: rewritten(r.text, t.at, condition, "if($1, $2, $3)")}
	}
	return nil
}

func comparing(op string) bool { return comparisons[op] != "" || op == "!=" }

// bracketed reports whether an expression stands in brackets of its own.
func bracketed(n *Node, text string) bool {
	return text[n.At] == '(' && text[n.End-1] == ')' && n.At < n.Args[0].At
}

// chain refuses comparisons that follow each other.
func (r *parser) chain(left, right *Node) *Problem {
	middle := left.Args[1]
	return &Problem{At: left.At, End: right.End, Sentence: "comparisons can't be chained; join them with and",
		Fixes: []Fix{{"compare both", middle.End, middle.End, " and " + r.text[middle.At:middle.End]}}}
}
