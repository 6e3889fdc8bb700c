package graph

import (
	"errors"
	"fmt"
	"strconv"
	"strings"
	"unicode"

	"wunderkammer/core/formula"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

// Fault is what keeps a slip from giving a value, in a sentence with the way out.
type Fault struct {
	Slip     scene.ID
	Sentence string
}

// Error makes a fault the error that Lower returns.
func (f *Fault) Error() string { return f.Sentence }

// Lower writes what is led to a slip, mostly a drive slip, as a formula with references by ids. A slip that more than one
// wire leaves, or that has a title, is a named value in it.
func Lower(g *scene.Graph, slip scene.ID) (string, error) {
	return LowerInput(g, slip, In)
}

// LowerSlip writes what a slip gives, or, of one that gives nothing, what is led to it.
func LowerSlip(g *scene.Graph, slip scene.ID) (string, error) {
	s, _ := g.Slip(slip)
	if s == nil || s.Kind == scene.WordsSlip || !Gives(s) {
		return LowerInput(g, slip, In)
	}
	l := newLowerer(g)
	l.count(slip)
	l.result = slip
	e, err := l.slip(s)
	if err != nil {
		return "", err
	}
	return strings.Join(append(l.lines, e.Text), "\n"), nil
}

// LowerInput returns the formula of what is led to an input of any slip, as Lower does for what drives; an error where the graph has no
// such slip, or nothing is led there.
func LowerInput(g *scene.Graph, slip scene.ID, in string) (string, error) {
	s, _ := g.Slip(slip)
	if s == nil {
		return "", fmt.Errorf("the graph %s no longer has that slip", g.Name)
	}
	l := newLowerer(g)
	l.count(slip)
	name := in
	if in == In {
		name = "the value"
	}
	e, err := l.input(s, in, name)
	if err != nil {
		return "", err
	}
	return strings.Join(append(l.lines, e.Text), "\n"), nil
}

type input struct {
	slip scene.ID
	in   string
}

type lowerer struct {
	g     *scene.Graph
	slips map[scene.ID]*scene.Slip
	wires map[input]*scene.Wire
	wired map[scene.ID]int // see wired
	uses  map[scene.ID]int // how many wires leave a slip, of those that matter
	lines []string
	taken map[string]bool
	open  map[scene.ID]bool // being lowered
	done  map[scene.ID]syntax.Piece
	// The slip whose value is the last line, which has no name.
	result scene.ID
	// Of a sheet: everything is named, but for what is left out; what the lines are, and on which each slip stands, from 1.
	all     bool
	without map[Source]bool
	outputs []Source
	at      map[scene.ID]int
}

// deepest is how deep expressions are nested before a part of them is named.
const deepest = 24

func newLowerer(g *scene.Graph) *lowerer {
	l := &lowerer{g: g, slips: map[scene.ID]*scene.Slip{}, wires: map[input]*scene.Wire{}, wired: wired(g), uses: map[scene.ID]int{}, taken: map[string]bool{}, open: map[scene.ID]bool{}, done: map[scene.ID]syntax.Piece{}, at: map[scene.ID]int{}}
	for _, s := range g.Slips {
		l.slips[s.ID] = s
	}
	for _, w := range g.Wires {
		l.wires[input{w.To, w.In}] = w
	}
	return l
}

// count counts the wires that leave the slips upstream of one, that one's ports in their order.
func (l *lowerer) count(slip scene.ID) {
	seen := map[scene.ID]bool{slip: true}
	for open := []scene.ID{slip}; len(open) > 0; {
		s := l.slips[open[len(open)-1]]
		open = open[:len(open)-1]
		for _, port := range inputsOf(s, l.wired[s.ID]) {
			w := l.wires[input{s.ID, port.Key}]
			if w == nil {
				continue
			}
			l.uses[w.From]++
			if !seen[w.From] {
				seen[w.From] = true
				open = append(open, w.From)
			}
		}
	}
}

func (l *lowerer) fault(s *scene.Slip, format string, args ...any) error {
	return &Fault{s.ID, fmt.Sprintf(format, args...)}
}

// input writes what an input of a slip is given.
func (l *lowerer) input(s *scene.Slip, key, name string) (syntax.Piece, error) {
	w := l.wires[input{s.ID, key}]
	if w == nil {
		if text := strings.TrimSpace(s.Fields[key]); text != "" {
			return l.field(s, text, name)
		}
		return syntax.Piece{}, l.fault(s, "%s needs %s; connect a wire, or type a value", Called(s), name)
	}
	from := l.slips[w.From]
	if from == nil || !Gives(from) {
		return syntax.Piece{}, l.fault(s, "a wire to %s comes from a slip that was removed", Called(s))
	}
	return l.output(from, w.Out)
}

// field writes what stands in the field of an input, in brackets where it is made of parts.
func (l *lowerer) field(s *scene.Slip, text, name string) (syntax.Piece, error) {
	lines, problem := syntax.Syntax(text)
	switch {
	case problem != nil:
		return syntax.Piece{}, l.fault(s, "%s of %s: %s", name, Called(s), problem.Sentence)
	case len(lines) > 1:
		return syntax.Piece{}, l.fault(s, "%s of %s takes one value; write several lines in a formula slip", name, Called(s))
	}
	return lines[0].Value.Write(nil), nil
}

// output writes what an output of a slip gives.
func (l *lowerer) output(s *scene.Slip, out string) (syntax.Piece, error) {
	if s.Kind == scene.WordsSlip {
		if wordsOf(out) != s.Text {
			return syntax.Piece{}, l.fault(s, "%s gives no %q", Called(s), scene.Clip(out))
		}
		return syntax.Whole(out), nil
	}
	e, err := l.slip(s)
	if err != nil || out == "" {
		return e, err
	}
	return e.Part(out), nil
}

// slip writes what a slip gives, once.
func (l *lowerer) slip(s *scene.Slip) (syntax.Piece, error) {
	if e, ok := l.done[s.ID]; ok {
		return e, nil
	}
	if l.without[Source{Slip: s.ID}] {
		return syntax.Piece{}, &Fault{} // which is said of that slip
	}
	if whole := kindOf(s).whole; whole != nil {
		return whole(l, s)
	}
	if l.open[s.ID] {
		return syntax.Piece{}, l.fault(s, "%s would depend on itself; read the driven property through a delay instead", Called(s))
	}
	l.open[s.ID] = true
	e, err := l.made(s)
	delete(l.open, s.ID)
	if err != nil {
		return e, err
	}
	if l.all || s.ID != l.result && (l.uses[s.ID] > 1 || s.Title != "" || e.Depth > deepest) {
		e = l.named(s, e.Text)
	}
	l.done[s.ID] = e
	return e, nil
}

// named puts a piece on a line of its own.
func (l *lowerer) named(s *scene.Slip, text string) syntax.Piece {
	name := l.name(Called(s))
	if s.Title != "" && s.Title != name {
		text += " // " + strings.Join(strings.Fields(s.Title), " ")
	}
	return l.line(Source{Slip: s.ID}, name, text)
}

// line puts what an output gives, or what is needed on the way, on a line of its own.
func (l *lowerer) line(of Source, name, text string) syntax.Piece {
	l.lines, l.outputs = append(l.lines, name+" = "+text), append(l.outputs, of)
	l.at[of.Slip] = len(l.lines)
	return syntax.Whole(name)
}

// name makes a name for a value that is not taken yet.
func (l *lowerer) name(of string) string {
	var b strings.Builder
	for _, c := range strings.ToLower(of) {
		if unicode.IsLetter(c) || unicode.IsDigit(c) && b.Len() > 0 {
			b.WriteRune(c)
		} else if b.Len() > 0 && !strings.HasSuffix(b.String(), "_") {
			b.WriteByte('_')
		}
	}
	name := strings.TrimRight(b.String(), "_")
	if len(name) > 40 {
		name = strings.ToValidUTF8(name[:40], "")
	}
	if name == "" {
		name = "value"
	}
	for k, base := 2, name; l.taken[name] || formula.IsWord(name); k++ {
		name = base + "_" + strconv.Itoa(k)
	}
	l.taken[name] = true
	return name
}

// made writes what a slip makes of its inputs.
func (l *lowerer) made(s *scene.Slip) (syntax.Piece, error) {
	ports := inputsOf(s, l.wired[s.ID])
	if s.Kind == scene.ApplySlip {
		few, many := Arity(s)
		n := filled(s, l.wired[s.ID])
		if n > many && many > 0 {
			return syntax.Piece{}, l.fault(s, "%s has no input %d; remove the wire to it", Called(s), n)
		}
		ports = ports[:min(len(ports), max(few, n))] // what is not filled behind the last input that is, is not there
	}
	args := make([]syntax.Piece, len(ports))
	for k, port := range ports {
		name := port.Name
		if name == "" {
			name = "input " + port.Key
		}
		var err error
		if args[k], err = l.input(s, port.Key, name); err != nil {
			return syntax.Piece{}, err
		}
	}
	if made := kindOf(s).made; made != nil {
		return made(l, s, ports, args)
	}
	return l.applied(s, ports, args)
}

// written writes the formula of a slip: its lines as named values, its inputs in place of its unknown names.
func (l *lowerer) written(s *scene.Slip, ports []Port, args []syntax.Piece) (syntax.Piece, error) {
	statements, problem := syntax.Syntax(s.Text)
	if problem != nil {
		return syntax.Piece{}, l.fault(s, "%s: %s", Called(s), problem.Sentence)
	}
	given := map[string]syntax.Piece{}
	for k, port := range ports {
		if given[port.Key] = args[k]; args[k].Depth > 1 { // which may stand there more than once
			given[port.Key] = l.line(Source{}, l.name(port.Key), args[k].Text)
		}
	}
	last := len(statements) - 1
	for _, one := range statements[:last] {
		given[one.Name] = l.line(Source{}, l.name(one.Name), one.Value.Write(given).Text)
	}
	return statements[last].Value.Write(given), nil
}

// Called names a slip in a sentence: by its title, or by what it is.
func Called(s *scene.Slip) string {
	if s.Title != "" {
		return s.Title
	}
	if called := kindOf(s).called; called != nil {
		return called(s)
	}
	return string(s.Kind)
}

// FaultOf returns which slip an error of Lower is about, where it is about one.
func FaultOf(err error) *Fault {
	var f *Fault
	if errors.As(err, &f) {
		return f
	}
	return nil
}
