package scene

import (
	"encoding/json"
	"fmt"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"

	"wunderkammer/core/num"
)

// Type is what kind of value a property holds. Angles and percents are numbers with a unit.
type Type string

// The types of values.
const (
	Number Type = "number"
	Point2 Type = "point2"
	Point3 Type = "point3"
	Colour Type = "colour"
	Switch Type = "switch"
	Text   Type = "text"
	Choice Type = "choice" // one of some options, by number from 0
)

// types holds, for each type, the names of its components; a type of one component has none.
var types = map[Type][]string{
	Number: nil, Switch: nil, Text: nil, Choice: nil,
	Point2: {"x", "y"},
	Point3: {"x", "y", "z"},
	Colour: {"r", "g", "b", "a"},
}

// Types lists the types of values, in the order of their names.
func Types() []Type { return slices.Sorted(maps.Keys(types)) }

// Components returns the names of the parts of the type in order; nil for a type of one part.
func (t Type) Components() []string { return types[t] }

// Size returns how many numbers a value of the type takes.
// A text takes one: its place in a table of texts.
func (t Type) Size() int { return max(1, len(types[t])) }

// Jumps reports whether the type only ever jumps from one value to the next: such values are
// not blended between pins.
func (t Type) Jumps() bool { return t == Switch || t == Text || t == Choice }

// Component returns the index of a named part, 0 for the empty name of a whole value.
func (t Type) Component(name string) (int, bool) {
	for i, n := range types[t] {
		if n == name {
			return i, true
		}
	}
	return 0, name == ""
}

// Hues are the components of a colour that are worked out of the others: the hue in degrees, saturation
// and lightness from 0 to 1. They can be driven like the others.
var Hues = []string{"hue", "saturation", "lightness"}

// Worked reports whether a component of the type is one of Hues, which have no slot of their own.
func (t Type) Worked(component string) bool {
	return t == Colour && slices.Contains(Hues, component)
}

// Value is one value of any type. The zero Value is the absent value. No number of it is a negative
// zero, which some writers of JSON turn into a plain one: x + 0 is x but for that.
type Value struct {
	size int8 // 0 absent, -1 text, else the number of components
	n    [4]float64
	s    string
}

// MaxMagnitude bounds every number a document may hold, so that sums and products of a few of
// them stay finite.
const MaxMagnitude = 1e12

// MaxText bounds the length in bytes of a text value.
const MaxText = 20000

// Num returns the value of a number, angle or percent.
func Num(x float64) Value { return Value{size: 1, n: [4]float64{unsigned(x)}} }

// Pt returns a point of two or three components: pixels for a place, percent for a scale.
func Pt(xs ...float64) Value { return NewValue(xs) }

// RGBA returns a colour; each component is sRGB, 0 to 1.
func RGBA(r, g, b, a float64) Value { return NewValue([]float64{r, g, b, a}) }

// On returns the value of a switch: the number 1 where it is on, else 0.
func On(on bool) Value {
	if on {
		return Num(1)
	}
	return Num(0)
}

// Txt returns the value of a text. It has no numbers: Len is 0, and At is 0 for every component.
func Txt(s string) Value { return Value{size: -1, s: s} }

// NewValue returns a value of one to four numbers, absent for none. More than four panic: no type has them.
func NewValue(xs []float64) Value {
	v := Value{size: int8(len(xs))}
	for i, x := range xs {
		v.n[i] = unsigned(x)
	}
	return v
}

// Absent reports whether there is no value, as of a property that nobody set: it has its default then.
func (v Value) Absent() bool { return v.size == 0 }

// IsText reports whether the value is a text.
func (v Value) IsText() bool { return v.size < 0 }

// Nums returns a copy of the numbers of the value: none for a text.
func (v Value) Nums() []float64 { return append([]float64(nil), v.n[:v.Len()]...) }

// Len returns how many numbers the value has: none for a text.
func (v Value) Len() int { return max(0, int(v.size)) }

// unsigned returns x, without the sign of a negative zero.
func unsigned(x float64) float64 {
	if x == 0 {
		return 0
	}
	return x
}

// With returns the value with component i, from 0 to 3, replaced; how many it has stays as it is.
func (v Value) With(i int, x float64) Value {
	v.n[i] = unsigned(x)
	return v
}

// Plus returns the value with a share of another added, component by component; it has as many components as it had.
func (v Value) Plus(other Value, share float64) Value {
	for i := range v.Len() {
		v.n[i] = unsigned(v.n[i] + float64(share*other.n[i]))
	}
	return v
}

// Times returns the value with each of its numbers multiplied.
func (v Value) Times(x float64) Value {
	for i := range v.Len() {
		v.n[i] = unsigned(v.n[i] * x)
	}
	return v
}

// At returns component i, from 0 to 3; 0 for one that the value does not have.
func (v Value) At(i int) float64 { return v.n[i] }

// Str returns the text of the value; empty for one of numbers.
func (v Value) Str() string { return v.s }

// Fits returns an error in plain words if the value is not one of type t, or holds numbers that
// no document may hold.
func (v Value) Fits(t Type) error {
	switch {
	case t == Text && !v.IsText():
		return fmt.Errorf("a text is wanted here, not %s", v)
	case t != Text && v.IsText():
		return fmt.Errorf("a %s is wanted here, not a text", t.Word())
	case t != Text && int(v.size) != t.Size():
		return fmt.Errorf("a %s has %s, but %s came", t.Word(), count(t.Size(), "number"), count(int(v.size), "number"))
	case len(v.s) > MaxText:
		return fmt.Errorf("the text is %d bytes long; at most %d are kept", len(v.s), MaxText)
	}
	for _, x := range v.n[:v.Len()] {
		if !num.Finite(x) || x > MaxMagnitude || x < -MaxMagnitude {
			return fmt.Errorf("%v is not a number that can be used; it must lie between -%g and %g", x, MaxMagnitude, MaxMagnitude)
		}
	}
	return nil
}

// Kind returns a type that a value of these components has: of one number, number.
func (v Value) Kind() Type {
	return [...]Type{Text, Number, Number, Point2, Point3, Colour}[v.size+1]
}

// Word names the type in a sentence, without an article: “2D point”, “colour”.
func (t Type) Word() string {
	switch t {
	case Point2:
		return "2D point"
	case Point3:
		return "3D point"
	}
	return string(t)
}

func count(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	return strconv.Itoa(n) + " " + word + "s"
}

// String prints the value so that nothing of it is lost: a number in its shortest exact form,
// a point as [x, y], a text in quotes.
func (v Value) String() string {
	switch {
	case v.size == 0:
		return "nothing"
	case v.size < 0:
		return strconv.Quote(v.s)
	case v.size == 1:
		return Exact(v.n[0])
	}
	parts := make([]string, v.size)
	for i := range parts {
		parts[i] = Exact(v.n[i])
	}
	return "[" + strings.Join(parts, ", ") + "]"
}

// Hex writes a colour as #rrggbb, without its alpha.
func (v Value) Hex() string {
	byte255 := func(i int) int { return int(float64(v.n[i]*255) + 0.5) }
	return fmt.Sprintf("#%02x%02x%02x", byte255(0), byte255(1), byte255(2))
}

// FromHex reads the digits of a colour: rgb, rgba, rrggbb or rrggbbaa; false where they are none.
func FromHex(digits string) (Value, bool) {
	if len(digits) == 3 || len(digits) == 4 {
		doubled := ""
		for _, d := range digits {
			doubled += string(d) + string(d)
		}
		digits = doubled
	}
	if len(digits) == 6 {
		digits += "ff"
	}
	n, err := strconv.ParseUint(digits, 16, 32)
	if err != nil || len(digits) != 8 {
		return Value{}, false
	}
	part := func(shift int) float64 { return float64(n>>shift&0xff) / 255 }
	return RGBA(part(24), part(16), part(8), part(0)), true
}

// Exact prints a number with the fewest digits that read back as the same number.
func Exact(x float64) string { return strconv.FormatFloat(x, 'g', -1, 64) }

// MarshalJSON writes a number, a list of numbers, a text, or null.
func (v Value) MarshalJSON() ([]byte, error) {
	switch {
	case v.size == 0:
		return []byte("null"), nil
	case v.size < 0:
		return json.Marshal(v.s)
	case v.size == 1:
		return appendNumber(nil, v.n[0])
	}
	out := make([]byte, 0, 16*int(v.size))
	for i, x := range v.n[:v.size] {
		out = append(out, "[,"[min(i, 1)])
		var err error
		if out, err = appendNumber(out, x); err != nil {
			return nil, err
		}
	}
	return append(out, ']'), nil
}

// appendNumber writes a number as JSON does.
func appendNumber(out []byte, x float64) ([]byte, error) {
	if abs := math.Abs(x); x == 0 || abs >= 1e-6 && abs < 1e21 {
		return strconv.AppendFloat(out, x, 'f', -1, 64), nil
	}
	text, err := json.Marshal(x) // with an exponent, or not at all
	return append(out, text...), err
}

// UnmarshalJSON reads what MarshalJSON writes; true and false are read as 1 and 0. It is called for every
// value of a project that is opened, so it takes valid JSON apart by itself.
func (v *Value) UnmarshalJSON(data []byte) error {
	text := strings.TrimSpace(string(data))
	switch {
	case text == "null":
		*v = Value{}
	case text == "true" || text == "false":
		*v = On(text == "true")
	case strings.HasPrefix(text, `"`):
		var s string
		if err := json.Unmarshal(data, &s); err != nil {
			return err
		}
		*v = Txt(s)
	case strings.HasPrefix(text, "["):
		parts := strings.Split(text[1:len(text)-1], ",")
		if len(parts) < 2 || len(parts) > 4 {
			return fmt.Errorf("a point or colour has 2 to 4 numbers, not %d", len(parts))
		}
		*v = Value{size: int8(len(parts))}
		for i, part := range parts {
			f, err := strconv.ParseFloat(strings.TrimSpace(part), 64)
			if err != nil {
				return fmt.Errorf("a point or colour is made of numbers, not %s", Clip(part))
			}
			v.n[i] = unsigned(f)
		}
	default:
		f, err := strconv.ParseFloat(text, 64)
		if err != nil {
			return fmt.Errorf("a value is a number, a list of numbers, a text, true or false")
		}
		*v = Num(f)
	}
	return nil
}
