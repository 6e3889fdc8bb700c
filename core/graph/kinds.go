package graph

import (
	"strconv"
	"strings"

	"wunderkammer/core/formula"
	"wunderkammer/core/formula/binding"
	"wunderkammer/core/formula/syntax"
	"wunderkammer/core/scene"
)

// slipKind is all that is particular to a kind of slips. What is absent of it, the kind has not.
type slipKind struct {
	mute   bool                                              // it has no outputs
	called func(s *scene.Slip) string                        // in a sentence; absent: as its kind
	arity  func(s *scene.Slip) (least, most int)             // how many inputs have to be filled, and can be
	ports  func(s *scene.Slip, last int) []Port              // its inputs, where a wire leads to that of the last number
	fits   func(*Fitting, *Fit, *scene.Slip, led)            // what becomes of what is led to an input
	whole  func(*lowerer, *scene.Slip) (syntax.Piece, error) // what stands for it as it is, and is never a line of its own
	made   func(l *lowerer, s *scene.Slip, ports []Port, args []syntax.Piece) (syntax.Piece, error)
}

// led is what is led to an input of a slip.
type led struct {
	in    string
	piece syntax.Piece
	of    binding.Type
	given map[string]binding.Type // of all names that stand for inputs
}

var kinds map[scene.SlipKind]*slipKind

func init() { // the functions look up the table themselves
	one := func(*scene.Slip) (least, most int) { return 1, 1 }
	text := func(s *scene.Slip) string { return s.Text }
	in := func(*scene.Slip, int) []Port { return []Port{{In, ""}} }
	kinds = map[scene.SlipKind]*slipKind{
		scene.ReadSlip:    {whole: (*lowerer).read},
		scene.ValueSlip:   {whole: (*lowerer).value},
		scene.WordsSlip:   {called: text},
		scene.ApplySlip:   {called: calledApply, arity: arityOfApply, ports: portsOfApply, fits: (*Fitting).apply, made: (*lowerer).applied},
		scene.FormulaSlip: {arity: arityOfFormula, ports: portsOfFormula, fits: (*Fitting).formula, made: (*lowerer).written},
		scene.MapSlip: {arity: one, fits: (*Fitting).mapped,
			ports: func(*scene.Slip, int) []Port { return []Port{{First, "x"}} },
			made: func(_ *lowerer, s *scene.Slip, _ []Port, args []syntax.Piece) (syntax.Piece, error) {
				return syntax.WriteStops(args[0], s.Stops, s.Beyond), nil
			}},
		scene.DriveSlip:   {mute: true, arity: one, ports: in, fits: (*Fitting).drive},
		scene.ReadoutSlip: {mute: true, arity: one, ports: in},
		scene.NoteSlip:    {mute: true},
		scene.FoldSlip:    {mute: true},
	}
}

// kindOf returns the kind of a slip; one that does nothing where there is no such kind.
func kindOf(s *scene.Slip) *slipKind {
	if k := kinds[s.Kind]; k != nil {
		return k
	}
	return &slipKind{}
}

// read writes the reference of what is read.
func (l *lowerer) read(s *scene.Slip) (syntax.Piece, error) {
	text := strings.TrimSpace(s.Text)
	if refs := syntax.References(text); len(refs) == 0 || !strings.HasPrefix(text, "{") || !strings.HasSuffix(text, "}") {
		return syntax.Piece{}, l.fault(s, "%s reads nothing yet; choose a property", Called(s))
	}
	return syntax.Whole(text), nil
}

// value writes a literal.
func (l *lowerer) value(s *scene.Slip) (syntax.Piece, error) {
	text := strings.TrimSpace(s.Text)
	if text == "" {
		return syntax.Piece{}, l.fault(s, "%s is empty; type a value", Called(s))
	}
	return syntax.Whole(text), nil
}

// applied writes the call of a function, or an operation.
func (l *lowerer) applied(s *scene.Slip, _ []Port, args []syntax.Piece) (syntax.Piece, error) {
	if f := formula.FunctionOf(s.Text); f != nil {
		return syntax.Call(f.Name, args...), nil
	}
	if o := operatorOf(s.Text); o != nil {
		return syntax.Operation(o.Text, args...), nil
	}
	return syntax.Piece{}, l.fault(s, "there is no function or operator named %q", scene.Clip(s.Text))
}

func calledApply(s *scene.Slip) string {
	if o := operatorOf(s.Text); o != nil {
		return o.Name
	}
	return s.Text
}

func arityOfApply(s *scene.Slip) (least, most int) {
	if f := formula.FunctionOf(s.Text); f != nil {
		least, most = f.Arity()
		return least, min(most, scene.MaxInputs)
	}
	o := operatorOf(s.Text)
	switch {
	case o == nil:
		return 0, 0
	case o.Text == syntax.Point:
		return len(o.Ins) - 1, len(o.Ins)
	}
	return len(o.Ins), len(o.Ins)
}

// portsOfApply lists the inputs that a function or operator needs, all that are filled, and one more where it takes any number.
func portsOfApply(s *scene.Slip, last int) []Port {
	few, many := arityOfApply(s)
	n := min(max(few, filled(s, last)), many)
	switch {
	case n < many && many-few > 2:
		n++ // another one
	case n < many:
		n = many
	}
	var names []string
	if f := formula.FunctionOf(s.Text); f != nil {
		names = f.Arguments(n)
	} else if o := operatorOf(s.Text); o != nil {
		names = o.Ins
	}
	out := make([]Port, n)
	for i := range out {
		out[i].Key = strconv.Itoa(i + 1)
		if i < len(names) {
			out[i].Name = names[i]
		}
	}
	return out
}

func arityOfFormula(s *scene.Slip) (least, most int) {
	n := len(formula.Unknown(s.Text))
	return n, n
}

// portsOfFormula lists the names that mean nothing else in a formula.
func portsOfFormula(s *scene.Slip, _ int) (out []Port) {
	for _, name := range formula.Unknown(s.Text) {
		out = append(out, Port{name, name})
	}
	return out
}

// drive checks what is led to a drive against all that it drives.
func (f *Fitting) drive(fit *Fit, s *scene.Slip, is led) {
	if is.of.List != nil { // whatever it will drive
		one := *f.scope
		one.Loose, one.Target = false, nil
		f.check(fit, is.piece.Text, is.piece.Text, &one, is.given, true)
		return
	}
	for _, scope := range f.targets[s.ID] {
		f.check(fit, is.piece.Text, is.piece.Text, scope, is.given, true)
		if to := (binding.Type{Of: scope.Target.Type, Unit: scope.Target.Unit}); fit.Turns == "" && scope.Part == "" {
			fit.Turns = turned(is.of, to)
		}
	}
}

// mapped checks what is led to a map, which takes numbers.
func (f *Fitting) mapped(fit *Fit, s *scene.Slip, is led) {
	f.check(fit, syntax.WriteStops(is.piece, s.Stops, s.Beyond).Text, is.piece.Text, f.scope, is.given, true)
	fit.Turns = turned(is.of, binding.Type{Of: scene.Number, Unit: is.of.Unit})
}

// formula checks what is led to one of the unknown names of a formula.
func (f *Fitting) formula(fit *Fit, s *scene.Slip, is led) {
	for _, port := range portsOfFormula(s, 0) {
		is.given[port.Key] = f.incoming(s, port.Key)
	}
	is.given[is.in] = is.of
	f.check(fit, s.Text, is.in, f.scope, is.given, f.whole(s, is.in))
}
