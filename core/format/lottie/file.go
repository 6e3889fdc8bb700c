package lottie

import (
	"encoding/json"
	"errors"
	"slices"
)

// What of an animation is read. Numbers are where the form wants them; what it leaves open (a number or a list of one) is read by
// the types of their own below.

type animation struct {
	Width  float64     `json:"w"`
	Height float64     `json:"h"`
	Rate   float64     `json:"fr"`
	From   float64     `json:"ip"`
	To     float64     `json:"op"`
	Layers []fileLayer `json:"layers"`
	Assets []asset     `json:"assets"`
}

type asset struct {
	ID     string      `json:"id"`
	Layers []fileLayer `json:"layers"`
	Path   string      `json:"u"`
	File   string      `json:"p"`
	Width  float64     `json:"w"`
	Height float64     `json:"h"`
}

// The types of layers.
const (
	compLayer  = 0
	solidLayer = 1
	imageLayer = 2
	nullLayer  = 3
	shapeLayer = 4
	textLayer  = 5
)

type fileLayer struct {
	Type     int               `json:"ty"`
	Name     string            `json:"nm"`
	Index    *int              `json:"ind"`
	Parent   *int              `json:"parent"`
	Ref      string            `json:"refId"`
	From     float64           `json:"ip"`
	To       float64           `json:"op"`
	Start    float64           `json:"st"`
	Stretch  *float64          `json:"sr"`
	Hidden   bool              `json:"hd"`
	Place    transform         `json:"ks"`
	Shapes   []shape           `json:"shapes"`
	Colour   string            `json:"sc"`
	SolidW   float64           `json:"sw"`
	SolidH   float64           `json:"sh"`
	Blend    int               `json:"bm"`
	Masks    []json.RawMessage `json:"masksProperties"`
	Matte    int               `json:"tt"`
	IsMatte  int               `json:"td"`
	Effects  []json.RawMessage `json:"ef"`
	Along    int               `json:"ao"`
	Remapped *json.RawMessage  `json:"tm"`
	Text     *struct {
		Document struct {
			Keys []struct {
				Says textSays `json:"s"`
			} `json:"k"`
		} `json:"d"`
		Animators []json.RawMessage `json:"a"`
	} `json:"t"`
}

type textSays struct {
	Text     string    `json:"t"`
	Font     string    `json:"f"`
	Size     float64   `json:"s"`
	Colour   []float64 `json:"fc"`
	Align    int       `json:"j"`
	Line     float64   `json:"lh"`
	Tracking float64   `json:"tr"`
}

type transform struct {
	Anchor   property `json:"a"`
	Position property `json:"p"`
	Scale    property `json:"s"`
	Rotation property `json:"r"`
	Z        property `json:"rz"`
	X        property `json:"rx"`
	Y        property `json:"ry"`
	Opacity  property `json:"o"`
	Skew     property `json:"sk"`
}

type shape struct {
	Type   string   `json:"ty"`
	Name   string   `json:"nm"`
	Hidden bool     `json:"hd"`
	Items  []shape  `json:"it"`
	Path   property `json:"ks"`
	// What letters mean depends on the type: a place, a size, a start, an opacity, a colour, a roundness …
	A  property        `json:"a"`
	P  property        `json:"p"`
	S  property        `json:"s"`
	E  property        `json:"e"`
	R  json.RawMessage `json:"r"` // a rotation, a roundness, or the rule of a fill
	O  property        `json:"o"`
	C  property        `json:"c"`
	W  property        `json:"w"`
	SK property        `json:"sk"`
	PT property        `json:"pt"`
	OR property        `json:"or"`
	IR property        `json:"ir"`
	OS property        `json:"os"`
	IS property        `json:"is"`
	// A star or a polygon; how a line ends and turns; a linear or a radial gradient.
	SY    int             `json:"sy"`
	Cap   int             `json:"lc"`
	Join  int             `json:"lj"`
	Kind  int             `json:"t"`
	Merge int             `json:"mm"`
	D     json.RawMessage `json:"d"` // a direction, or the dashes of a line
	G     struct {
		Count int      `json:"p"`
		Stops property `json:"k"`
	} `json:"g"`
}

// place is the transform that ends a group.
func (s *shape) place() transform {
	return transform{Anchor: s.A, Position: s.P, Scale: s.S, Rotation: s.turned(), Opacity: s.O, Skew: s.SK}
}

// turned reads r as a property.
func (s *shape) turned() (p property) {
	if len(s.R) > 0 {
		_ = json.Unmarshal(s.R, &p) // what is none is absent
	}
	return p
}

// property is something that stands still or moves.
type property struct {
	keys       []keyframe
	split      *[3]property // x, y and z, each by itself
	expression bool
}

// absent reports whether the file says nothing of it.
func (p *property) absent() bool { return len(p.keys) == 0 && p.split == nil }

// moves reports whether it has several keys, or parts of it have.
func (p *property) moves() bool {
	if p.split != nil {
		return slices.ContainsFunc(p.split[:], func(part property) bool { return part.moves() })
	}
	return len(p.keys) > 1
}

// is reports whether it stands still, all its numbers that the file gives being x, of width numbers at most.
func (p *property) is(x float64, width int) bool {
	if p.split != nil {
		return !slices.ContainsFunc(p.split[:min(width, 3)], func(part property) bool { return !part.is(x, 1) })
	}
	for _, key := range p.keys {
		if len(p.keys) > 1 || slices.ContainsFunc(key.value[:min(width, len(key.value))], func(v float64) bool { return v != x }) {
			return false
		}
	}
	return true
}

// keyframe is a value at a time of the file, and the way to the next.
type keyframe struct {
	at        float64
	value     []float64
	paths     []bezier // in place of numbers
	hold      bool
	out, in   [2][]float64 // x and y of the handles of its easing, for all or each of the numbers
	lead      []float64    // where a path leaves it to
	arrive    []float64    // and where from it arrives at the next
	end       []float64    // the value at the end of its span, in old files
	pathsEnd  []bezier
	valueless bool
}

// bezier is an outline: places, and handles counted from them.
type bezier struct {
	Closed bool         `json:"c"`
	V      [][2]float64 `json:"v"`
	I      [][2]float64 `json:"i"`
	O      [][2]float64 `json:"o"`
}

var errProperty = errors.New("a property of it is damaged")

// UnmarshalJSON reads a property in any of the forms that files have.
func (p *property) UnmarshalJSON(data []byte) error {
	var says struct {
		K     json.RawMessage `json:"k"`
		X     json.RawMessage `json:"x"`
		Y     json.RawMessage `json:"y"`
		Z     json.RawMessage `json:"z"`
		Split json.RawMessage `json:"s"`
	}
	if len(data) == 0 || data[0] != '{' { // a bare value
		v, paths, err := valueOf(data)
		if err != nil {
			return nil // of no use to anybody: absent
		}
		p.keys = []keyframe{{value: v, paths: paths}}
		return nil
	}
	if err := json.Unmarshal(data, &says); err != nil {
		return errProperty
	}
	if string(says.Split) == "true" || says.K == nil && len(says.X) > 0 && says.X[0] == '{' {
		p.split = &[3]property{}
		for k, data := range []json.RawMessage{says.X, says.Y, says.Z} {
			var part struct {
				K json.RawMessage `json:"k"`
			}
			if len(data) == 0 {
				continue
			}
			if json.Unmarshal(data, &part) != nil || p.split[k].read(part.K) != nil {
				return errProperty
			}
		}
		return nil
	}
	p.expression = len(says.X) > 0 && says.X[0] == '"'
	return p.read(says.K)
}

// read reads the value of a property, or its keys.
func (p *property) read(k json.RawMessage) error {
	if len(k) == 0 {
		return nil
	}
	var list []json.RawMessage
	if k[0] == '[' {
		if err := json.Unmarshal(k, &list); err != nil {
			return errProperty
		}
	}
	keyed := len(list) > 0 && len(list[0]) > 0 && list[0][0] == '{' && hasTime(list[0])
	if !keyed {
		v, paths, err := valueOf(k)
		if err != nil {
			return errProperty
		}
		p.keys = []keyframe{{value: v, paths: paths}}
		return nil
	}
	for _, data := range list {
		one, err := keyOf(data)
		if err != nil {
			return err
		}
		if one.valueless && len(p.keys) > 0 { // old files give the last value with the key before
			before := &p.keys[len(p.keys)-1]
			one.value, one.paths = before.end, before.pathsEnd
		}
		if one.value == nil && one.paths == nil {
			continue
		}
		p.keys = append(p.keys, one)
	}
	return nil
}

func hasTime(data []byte) bool {
	var key struct {
		T *float64 `json:"t"`
	}
	return json.Unmarshal(data, &key) == nil && key.T != nil
}

func keyOf(data []byte) (out keyframe, err error) {
	var key struct {
		T  float64         `json:"t"`
		S  json.RawMessage `json:"s"`
		E  json.RawMessage `json:"e"`
		H  float64         `json:"h"`
		O  handles         `json:"o"`
		I  handles         `json:"i"`
		To []float64       `json:"to"`
		Ti []float64       `json:"ti"`
	}
	if err := json.Unmarshal(data, &key); err != nil {
		return out, errProperty
	}
	out = keyframe{at: key.T, hold: key.H != 0, out: [2][]float64{key.O.X, key.O.Y}, in: [2][]float64{key.I.X, key.I.Y}, lead: key.To, arrive: key.Ti}
	if out.valueless = len(key.S) == 0; !out.valueless {
		if out.value, out.paths, err = valueOf(key.S); err != nil {
			return out, err
		}
	}
	if len(key.E) > 0 {
		if out.end, out.pathsEnd, err = valueOf(key.E); err != nil {
			return out, err
		}
	}
	return out, nil
}

// valueOf reads a number, a list of numbers, an outline, or a list of outlines.
func valueOf(data json.RawMessage) (numbers []float64, paths []bezier, err error) {
	if len(data) == 0 {
		return nil, nil, errProperty
	}
	switch data[0] {
	case '{':
		var one bezier
		if err := json.Unmarshal(data, &one); err != nil {
			return nil, nil, errProperty
		}
		return nil, []bezier{one}, nil
	case '[':
		if json.Unmarshal(data, &numbers) == nil {
			return numbers, nil, nil
		}
		if json.Unmarshal(data, &paths) == nil {
			return nil, paths, nil
		}
		return nil, nil, errProperty
	}
	var x float64
	if json.Unmarshal(data, &x) != nil {
		return nil, nil, errProperty
	}
	return []float64{x}, nil, nil
}

// handles are those of an easing: a number for all, or one for each.
type handles struct{ X, Y list }

// list is a number, or several.
type list []float64

// UnmarshalJSON reads either.
func (l *list) UnmarshalJSON(data []byte) error {
	numbers, _, err := valueOf(data)
	*l = numbers
	return err
}
