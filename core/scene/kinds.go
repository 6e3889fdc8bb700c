package scene

import (
	"slices"
	"strings"
)

// Kind is what an item is.
type Kind string

// The kinds of items.
const (
	Null             Kind = "null"
	TextItem         Kind = "text"
	Rectangle        Kind = "rectangle"
	Ellipse          Kind = "ellipse"
	Polygon          Kind = "polygon"
	Star             Kind = "star"
	PathItem         Kind = "path"
	Picture          Kind = "picture"
	Flipbook         Kind = "flipbook"
	Box              Kind = "box"
	Ball             Kind = "ball"
	Cylinder         Kind = "cylinder"
	Cone             Kind = "cone"
	Torus            Kind = "torus"
	Plane            Kind = "plane"
	Capsule          Kind = "capsule"
	MeshItem         Kind = "mesh" // an object of a file
	PointLight       Kind = "pointLight"
	SpotLight        Kind = "spotLight"
	DirectionalLight Kind = "directionalLight"
	AmbientLight     Kind = "ambientLight"
	Emitter          Kind = "emitter"
	Camera           Kind = "camera"
	Zone             Kind = "zone"
	SoundItem        Kind = "sound"  // never seen
	TableItem        Kind = "table"  // never seen: numbers and words from elsewhere
	CopiesItem       Kind = "copies" // shows its children many times
	Piece            Kind = "piece"  // shows another composition
	Copy             Kind = "copy"   // one of them: never stored, made of it
)

// Class is how items of a kind are drawn.
type Class string

// The classes.
const (
	Handle   Class = "null"     // never drawn
	Outlined Class = "outlined" // flat, with an outline that is filled and stroked
	Pictured Class = "pictured" // flat, with a picture on it
	Solid    Class = "solid"    // an object with a surface in space
	Light    Class = "light"
	Sparks   Class = "particles"
	Lens     Class = "camera"
	Lane     Class = "copy"
	Heard    Class = "sound" // never drawn
	Data     Class = "data"  // never drawn
	Staged   Class = "piece" // what is drawn is in its composition
)

// KindInfo says what a kind of item is called and how it is drawn.
type KindInfo struct {
	Kind  Kind   `json:"kind"`
	Name  string `json:"name"` // in sentences and menus
	Class Class  `json:"class"`
	Group string `json:"menu"` // of the menu that adds it
	Many  string `json:"many"` // the name of several
}

// Kinds lists every kind of item in the order of the menus.
var Kinds = []KindInfo{
	{Null, "null", Handle, "rig", "nulls"},
	{TextItem, "text", Outlined, "flat", "texts"},
	{Rectangle, "rectangle", Outlined, "flat", "rectangles"},
	{Ellipse, "ellipse", Outlined, "flat", "ellipses"},
	{Polygon, "polygon", Outlined, "flat", "polygons"},
	{Star, "star", Outlined, "flat", "stars"},
	{PathItem, "path", Outlined, "flat", "paths"},
	{Picture, "picture", Pictured, "flat", "pictures"},
	{Flipbook, "flipbook", Pictured, "flat", "flipbooks"},
	{Box, "box", Solid, "objects", "boxes"},
	{Ball, "sphere", Solid, "objects", "spheres"},
	{Cylinder, "cylinder", Solid, "objects", "cylinders"},
	{Cone, "cone", Solid, "objects", "cones"},
	{Torus, "torus", Solid, "objects", "toruses"},
	{Plane, "plane", Solid, "objects", "planes"},
	{Capsule, "capsule", Solid, "objects", "capsules"},
	{MeshItem, "mesh", Solid, "objects", "meshes"},
	{PointLight, "point light", Light, "lights", "point lights"},
	{SpotLight, "spot light", Light, "lights", "spot lights"},
	{DirectionalLight, "directional light", Light, "lights", "directional lights"},
	{AmbientLight, "ambient light", Light, "lights", "ambient lights"},
	{Emitter, "emitter", Sparks, "rig", "emitters"},
	{Camera, "camera", Lens, "rig", "cameras"},
	{Zone, "zone", Handle, "rig", "zones"},
	{SoundItem, "sound", Heard, "rig", "sounds"},
	{TableItem, "table", Data, "rig", "tables"},
	{CopiesItem, "copies", Handle, "rig", "copies"},
	{Piece, "piece", Staged, "rig", "pieces"},
	{Copy, "copy", Lane, "", "copies"},
}

// One returns the name with its article, as in: an ellipse.
func (k KindInfo) One() string {
	if k.Kind == CopiesItem {
		return k.Name
	}
	if k.Name != "" && strings.ContainsRune("aeio", rune(k.Name[0])) {
		return "an " + k.Name
	}
	return "a " + k.Name
}

var kindInfo = func() map[Kind]KindInfo {
	m := map[Kind]KindInfo{}
	for _, k := range Kinds {
		m[k.Kind] = k
	}
	return m
}()

// Info returns what is known of a kind; the zero KindInfo for one that does not exist.
func (k Kind) Info() KindInfo { return kindInfo[k] }

// Class returns how items of the kind are drawn.
func (k Kind) Class() Class { return kindInfo[k].Class }

// Drawn reports whether items of the kind show in the picture by themselves.
func (k Kind) Drawn() bool {
	switch k.Class() {
	case Outlined, Pictured, Solid, Sparks:
		return true
	}
	return false
}

// of lists the kinds of some classes.
func of(classes ...Class) []Kind {
	var out []Kind
	for _, k := range Kinds {
		if slices.Contains(classes, k.Class) {
			out = append(out, k.Kind)
		}
	}
	return out
}
