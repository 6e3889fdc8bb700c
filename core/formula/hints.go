package formula

import (
	"fmt"
	"regexp"
	"slices"
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
	if n := len(s.out); n > 0 && s.out[n-1].kind == tokenNumber && s.out[n-1].text == "" {
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
	case t.text == "(" && r.at > 2 && before.kind == tokenName && functions[before.text] != nil && r.tokens[r.at-2].text == "." && r.tokens[r.at-3].kind == tokenName:
		library := r.tokens[r.at-3]
		return &Problem{At: library.at, End: before.end, Sentence: "functions are written by their names alone", Fixes: []Fix{{"write " + before.text, library.at, before.end, before.text}}}
	case t.text == "," && before.kind == tokenNumber && next.kind == tokenNumber && before.text == "" && before.end == t.at && t.end == next.at:
		made := r.text[before.at:before.end] + "." + r.text[next.at:next.end]
		return &Problem{At: before.at, End: next.end, Sentence: "the decimal point is a point", Fixes: []Fix{{"write " + made, before.at, next.end, made}}}
	case t.text == "*" && before.text == "*" && t.kind == tokenSign && before.kind == tokenSign:
		return &Problem{At: before.at, End: t.end, Sentence: "to the power of is written ^", Fixes: []Fix{{"write ^", before.at, t.end, "^"}}}
	case t.kind == tokenName && before.kind == tokenNumber && before.text == "" && (unitWords[strings.ToLower(t.text)] || unitNames[strings.ToLower(t.text)] != "" || units[t.text].factor != 0):
		p := noUnit(t.text, t.at, t.end)
		if units[t.text].factor != 0 {
			p.Sentence = "a unit goes directly after its number"
			p.Fixes = []Fix{{"write " + r.text[before.at:before.end] + t.text, before.at, t.end, r.text[before.at:before.end] + t.text}}
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
	case t.text == "return" && !r.named["return"] && next.kind != tokenSign:
		return &Problem{At: t.at, End: t.end, Sentence: "the last line is the result by itself", Fixes: []Fix{{"leave out return", t.at, next.at, ""}}}
	case t.text == "if" && !(next.kind == tokenSign && next.text == "("):
		return &Problem{At: t.at, End: t.end, Sentence: "a choice is written if(condition, a, b)", Fixes: rewritten(r.text, t.at, condition, "if($1, $2, $3)")}
	}
	return nil
}

func comparing(op string) bool { return comparisons[op] != "" || op == "!=" }

// bracketed reports whether an expression stands in brackets of its own.
func bracketed(n *node, text string) bool {
	return text[n.at] == '(' && text[n.end-1] == ')' && n.at < n.args[0].at
}

// chain refuses comparisons that follow each other.
func (r *parser) chain(left, right *node) *Problem {
	middle := left.args[1]
	return &Problem{At: left.at, End: right.end, Sentence: "comparisons can't be chained; join them with and",
		Fixes: []Fix{{"compare both", middle.end, middle.end, " and " + r.text[middle.at:middle.end]}}}
}

// meant offers the references that a name or a reference may stand for: properties of that name, of any item.
func (s *Scope) meant(name string) (fixes []string) {
	if s.Items == nil {
		return nil
	}
	owner, property := "", fold(name)
	if dot := strings.IndexByte(name, '.'); dot > 0 {
		owner, property = fold(name[:dot]), fold(name[dot+1:])
	}
	for _, item := range s.Items() {
		if owner != "" && fold(item.Name) != owner {
			continue
		}
		for _, spec := range item.Readable() {
			if fold(spec.Name) == property && (owner != "" || item.Control(scene.ID(spec.Key)) != nil) {
				fixes = append(fixes, "{"+quote(item.Name)+": "+quoteProperty(spec.Name)+"}")
			}
		}
	}
	return fixes
}

const ownersInBraces = "; a property of an item is named with its owner, in braces"

// dotted is what stands behind a name: its parts, set off by dots.
var dotted = regexp.MustCompile(`^(?:\.[\p{L}_][\p{L}\d_]*)+`)

// elsewhere completes what is said of a name that means nothing, where it is one that means something elsewhere: the value below, an
// item or a property followed by a dot, a control, a function of a library. It reports whether nothing else can be meant.
func (c *compiler) elsewhere(n *node, p *Problem) bool {
	path := strings.Split(n.text+dotted.FindString(c.text[n.end:]), ".")
	upTo := func(parts int) int { return n.at + len(strings.Join(path[:parts], ".")) }
	fix := func(parts int, text string) bool {
		p.Fixes = append(p.Fixes, Fix{text, n.at, upTo(parts), text})
		return true
	}
	name := fold(path[0])
	if len(path) > 1 {
		if meant := c.scope.meant(path[0] + "." + path[1]); len(meant) > 0 {
			p.Sentence += ownersInBraces
			return fix(2, meant[0])
		}
		if last := strings.ToLower(path[1]); name == "math" && (builtins[last] != nil || functions[last] != nil) {
			p.Sentence += fmt.Sprintf("; %s is there by itself", last)
			return fix(2, last)
		}
	}
	if meant := c.scope.meant(path[0]); len(meant) > 0 { // controls of some items
		p.Sentence += ownersInBraces
		for _, text := range meant[:min(3, len(meant))] {
			fix(1, text)
		}
		return false
	}
	if c.scope.Target != nil && (name == "value" || name == fold(c.scope.Target.Name)) {
		p.Sentence += "; what the property has without this link is own"
		return fix(1, "own")
	}
	if c.scope.Self != nil {
		for _, spec := range c.scope.Self.Readable() {
			if fold(spec.Name) == name || fold(spec.Key) == name {
				p.Sentence += "; a property of the driven item is named with self, in braces"
				return fix(1, "{self: "+quoteProperty(spec.Name)+"}")
			}
		}
	}
	return false
}

// degreesWanted warns of a time or a plain number of seconds where an angle is wanted.
func (c *compiler) degreesWanted(n *node, v value) {
	if v.Unit != scene.Seconds || v.Scaled {
		return
	}
	arg := c.source(n.args[0])
	if n.args[0].kind == nodeBinary {
		arg = "(" + arg + ")"
	}
	c.problem(Problem{At: n.at, End: n.end, Warning: true, Sentence: fmt.Sprintf("%s takes an angle in degrees, but this is a time: a full turn would take 360 seconds", n.text),
		Fixes: []Fix{{"a wave with one cycle per second", n.at, n.end, "wave(" + c.source(n.args[0]) + ")"}, {"one turn per second", n.args[0].at, n.args[0].end, arg + " * 360"}}})
}

// hurry notes a time that is multiplied by a percent.
func (c *compiler) hurry(n *node, a, b value) {
	percent := -1
	switch {
	case n.text != "*":
	case a.Unit == scene.Seconds && b.Unit == scene.Percent && !b.Scaled:
		percent = 1
	case b.Unit == scene.Seconds && a.Unit == scene.Percent && !a.Scaled:
		percent = 0
	}
	if percent >= 0 {
		if c.whole.hurried == nil {
			c.whole.hurried = map[*node]*node{}
		}
		c.whole.hurried[n] = n.args[percent]
	}
}

// hundredthsWanted warns of waves of a time that is multiplied by a percent: at 50 % they go through 50 cycles a second, of which
// frames mostly show none.
func (c *compiler) hundredthsWanted(n *node) {
	percent := c.whole.hurried[n.args[0]]
	if percent == nil {
		return
	}
	c.problem(Problem{At: percent.at, End: percent.end, Warning: true,
		Sentence: fmt.Sprintf("%s is a percent, so at 50 %% it makes 50 cycles a second, which frames can't show", c.said(percent)),
		Fixes:    []Fix{{"take the percent as hundredths", percent.at, percent.end, c.inBrackets(percent) + " / 100"}}})
}

// together returns the unit of values of which a result is one, or lies between: that of those that have one, whatever their
// order. Of a percent beside plain numbers it is told that they are percent then, too. 0 and 100 mean the same either way, and a
// factor says what is meant.
func (c *compiler) together(args []*node, list []value) scene.Unit {
	unit := scene.Unit("")
	if c.scope != nil && c.scope.FirstUnit {
		return list[0].Unit
	}
	for _, v := range list {
		if unit == "" {
			unit = v.Unit
		}
	}
	if unit != scene.Percent || slices.ContainsFunc(list, func(v value) bool { return v.Unit == scene.Percent && v.Scaled }) {
		return unit
	}
	for i, v := range list {
		if v.Unit != "" || v.Scaled || v.Of != scene.Number || len(v.regs) != 1 {
			continue
		}
		if x, constant := c.builder.Value(v.regs[0]); constant && (x == 0 || x == 100) {
			continue
		}
		percent := args[slices.IndexFunc(list, func(v value) bool { return v.Unit == scene.Percent })]
		c.problem(Problem{At: args[i].at, End: args[i].end, Warning: true,
			Sentence: fmt.Sprintf("%s is a plain number beside %s, which is a percent, so it counts as percent", c.said(args[i]), c.said(percent)),
			Fixes: []Fix{
				{"take the percent as hundredths", percent.at, percent.end, c.inBrackets(percent) + " / 100"},
				{"keep it as percent", percent.at, percent.end, c.inBrackets(percent) + " * 1"},
			}})
		return unit
	}
	return unit
}

// inBrackets writes a part of a formula so that something can stand behind it.
func (c *compiler) inBrackets(n *node) string {
	if n.kind == nodeBinary || n.kind == nodeNegative || n.kind == nodeNot {
		return "(" + c.source(n) + ")"
	}
	return c.source(n)
}

// sharesWanted warns of numbers up to 255 where shares are wanted.
func (c *compiler) sharesWanted(n *node, regs []int32) {
	made := make([]string, len(n.args))
	large := false
	for i, r := range regs {
		x, constant := c.builder.Value(r)
		large = large || constant && x > 1
		made[i] = c.source(n.args[i]) + " / 255"
		if n.args[i].kind == nodeBinary {
			made[i] = "(" + c.source(n.args[i]) + ") / 255"
		}
	}
	if large {
		c.problem(Problem{At: n.at, End: n.end, Warning: true, Sentence: "red, green and blue are each from 0 to 1", Fixes: []Fix{{"divide by 255", n.at, n.end, "rgb(" + strings.Join(made, ", ") + ")"}}})
	}
}

// option says of a choice that is compared with a text which number stands for it.
func (c *compiler) option(n *node, choice value, text *node) value {
	p := Problem{At: n.at, End: n.end, Sentence: "compare a choice by the number of its option, counted from 0"}
	for k, name := range choice.options {
		if text.kind == nodeText && fold(name) == fold(text.text) {
			p.Fixes = []Fix{{fmt.Sprintf("%s is %d", name, k), text.at, text.end, fmt.Sprint(k)}}
		}
	}
	c.problem(p)
	return value{}
}

// CycleOf says that a formula makes a property depend on itself, with the ways out: its own value, or a delay.
func CycleOf(text, cycle string, s *Scope) Problem {
	p := Problem{At: 0, End: len(text), Sentence: "this creates a loop: " + cycle + "; use own, the value under the links, or the value one frame earlier"}
	eachReference(text, func(r *Reference, at, end int) {
		item, wrong := s.owner(r)
		if wrong != nil || item != s.Self {
			return
		}
		spec, wrong := s.property(r, item)
		if wrong != nil || s.Target == nil || spec.Key != s.Target.Key && spec.Key != scene.OwnVertex || len(p.Fixes) > 0 {
			return
		}
		own := "own"
		if r.Part != "" {
			own += "." + r.Part
		}
		p.At, p.End = at, end
		p.Fixes = []Fix{{"use own", at, end, own}, {"use the frame before", at, end, "delay(" + text[at:end] + ", 1f)"}}
	})
	return p
}
