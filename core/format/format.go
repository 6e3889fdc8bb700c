// Package format is the table of the files that a composition goes out as, and what each of them can't hold. Whoever offers,
// writes or documents formats reads it.
package format

import (
	"fmt"
	"slices"
	"strings"

	"wunderkammer/core/engine"
	"wunderkammer/core/scene"
)

// Format is a kind of file that a composition is exported as.
type Format struct {
	Key       string `json:"key"`
	Name      string `json:"name"`
	Group     string `json:"group"` // under which it is offered
	Extension string `json:"extension"`
	Codec     string `json:"codec,omitempty"` // of the pictures, where they are encoded as moving ones
	// Even formats have sizes that are even in both directions.
	Even bool `json:"even,omitempty"`
	// Clear formats can leave out the background.
	Clear bool   `json:"clear,omitempty"`
	About string `json:"about"`           // what it is good for, in a sentence
	Sound bool   `json:"sound,omitempty"` // it holds sounds
	Loops bool   `json:"loops,omitempty"` // it says how often it plays
	One   bool   `json:"one,omitempty"`   // it holds one frame
	// Drawn formats hold pictures; the others are written of what there is.
	Drawn bool `json:"drawn,omitempty"`
	// Parted formats can be made in parts, that are joined without encoding anything anew.
	Parted bool `json:"parted,omitempty"`
	// Thinned formats hold keys, as few as a tolerance allows.
	Thinned bool `json:"thinned,omitempty"`
	// Flat formats hold nothing but flat shapes.
	Flat bool `json:"flat,omitempty"`
	// Table formats hold numbers, and no pictures.
	Table bool `json:"table,omitempty"`
	// left is what it can't hold of items of a class, and what is done about it.
	left map[scene.Class]string
	// round formats have no elliptical gradients.
	round bool
	// whole formats show no part of a picture.
	whole bool
	// fixed are the properties of items of a class that stay as they are at the first frame.
	fixed map[scene.Class][]string
}

// Groups that formats are offered under.
const (
	moving = "Moving pictures"
	web    = "For the web"
	still  = "Still and data"
)

// silent formats hold pictures and no sounds.
var silent = map[scene.Class]string{scene.Heard: "sound: left out"}

// drawings are what formats leave out that hold flat shapes and pictures.
var drawings = map[scene.Class]string{
	scene.Solid:  "object: left out",
	scene.Light:  "light: left out",
	scene.Sparks: "particles: left out",
	scene.Lens:   "camera: all is seen straight from the front",
	scene.Heard:  "sound: left out",
}

// solids are what formats leave out that hold what stands in space.
var solids = map[scene.Class]string{
	scene.Outlined: "flat shape: left out",
	scene.Pictured: "picture: left out",
	scene.Sparks:   "particles: left out",
	scene.Heard:    "sound: left out",
}

// fixedSolids are the properties that don't change in formats that hold what stands in space.
var fixedSolids = map[scene.Class][]string{
	scene.Solid: {"colour", "opacity", "roughness"},
	scene.Light: {"colour", "intensity", "range", "coneAngle", "coneSoftness"},
	scene.Lens:  {"lensAngle"},
}

// Formats lists all that a composition can be exported as, as they are offered.
var Formats = []*Format{
	{Key: "mp4", Name: "MP4", Group: moving, Extension: "mp4", Codec: "avc", Even: true, Sound: true, Drawn: true, Parted: true, About: "H.264, which plays everywhere."},
	{Key: "webm", Name: "WebM", Group: moving, Extension: "webm", Codec: "vp9", Even: true, Sound: true, Drawn: true, Parted: true, About: "VP9, for the web: smaller than MP4 at the same quality."},
	{Key: "av1", Name: "WebM (AV1)", Group: moving, Extension: "webm", Codec: "av1", Even: true, Sound: true, Drawn: true, Parted: true, About: "AV1, for newer browsers: smaller still, and slower to encode."},
	{Key: "png", Name: "Numbered PNG", Group: moving, Extension: "zip", Clear: true, left: silent, Drawn: true, Parted: true, About: "A PNG for each frame, in a zip: exact, for the edit, with transparency if wanted."},
	{Key: "apng", Name: "Animated PNG", Group: moving, Extension: "png", Clear: true, Loops: true, left: silent, Drawn: true, About: "One exact picture that moves, with soft transparency. Large: keep it small and short."},
	{Key: "webp", Name: "Animated WebP", Group: moving, Extension: "webp", Clear: true, Loops: true, left: silent, Drawn: true, About: "A picture that moves, with soft transparency, for pages and chats: much smaller than animated PNG."},
	{Key: "gif", Name: "Animated GIF", Group: moving, Extension: "gif", Clear: true, Loops: true, left: silent, Drawn: true, About: "256 colours a frame, which moves in every mail. What is transparent has hard edges."},
	{Key: "player", Name: "Player", Group: web, Extension: "zip", One: true, left: silent, Drawn: true, About: "A folder for any web server: it plays there, and a page drives its controls. The frame stands in until it is ready."},
	{Key: "moving", Name: "SVG that moves", Group: web, Extension: "svg", Clear: true, Loops: true, Thinned: true, Flat: true, left: drawings, About: "Shapes that move by themselves in any page, at any size, without a script."},
	{Key: "lottie", round: true, whole: true, Name: "Lottie", Group: web, Extension: "json", Clear: true, Thinned: true, Flat: true, left: drawings, About: "Shapes that move, for apps and pages with a Lottie player. Links and formulas become keys, as few as the tolerance allows."},
	{Key: "picture", Name: "PNG of a frame", Group: still, Extension: "png", Clear: true, One: true, left: silent, Drawn: true, About: "One frame as a picture, with transparency if wanted."},
	{Key: "svg", Name: "SVG of a frame", Group: still, Extension: "svg", One: true, Flat: true, left: drawings, About: "One frame as shapes, for print and for drawing on."},
	{Key: "gltf", Name: "glTF", Group: web, Extension: "glb", Thinned: true, left: solids, fixed: fixedSolids, About: "Objects, lights and cameras with their motion, for 3D programs and pages. 100 px are a metre."},
	{Key: "csv", Name: "CSV", Group: still, Extension: "csv", Table: true, About: "The values of all that has links or pins, a row for each frame, for spreadsheets and scripts."},
}

// Of returns a format by its key; nil for none.
func Of(key string) *Format {
	for _, f := range Formats {
		if f.Key == key {
			return f
		}
	}
	return nil
}

// Lack is something that a format can't hold, and what is done about it.
type Lack struct {
	Item scene.ID `json:"item"`
	What string   `json:"what"`
}

// Lacks lists what of a composition a format can't hold, item by item, as it is at the frame that its plan was last evaluated at.
func (f *Format) Lacks(p *engine.Plan) []Lack {
	out := []Lack{}
	l := p.Layout
	lights := slices.ContainsFunc(l.Items, func(item *scene.Item) bool { return item.Kind.Class() == scene.Light && !item.Hidden })
	seen := map[Lack]bool{}
	for i, item := range l.Items {
		if item.Kind == scene.Copy || l.Hidden[i] || l.Out[i] || item.Kind == scene.SoundItem && item.Sound == nil {
			continue
		}
		if what := f.lack(p, int32(i), lights); what != "" {
			lack := Lack{item.ID, what}
			if piece := l.Outermost(int32(i)); piece >= 0 {
				lack = Lack{l.Items[piece].ID, item.Name + ": " + what}
			}
			if !seen[lack] {
				seen[lack] = true
				out = append(out, lack)
			}
		}
	}
	return out
}

// Failing lists the formulas that give nothing at some of the frames of a composition: what is exported there is the value below them.
func Failing(p *engine.Plan) []Lack {
	out := []Lack{}
	for _, b := range p.Broken(p.Layout.Composition.Frames, engine.MaxBroken) {
		id := b.At.Item
		if of, _, copied := scene.LaneOf(id); copied {
			id = of
		}
		i := p.Layout.Anywhere(id)
		if i < 0 {
			continue
		}
		name := b.At.Property
		if spec := p.Layout.Items[i].Spec(name); spec != nil {
			name = spec.Name
		}
		if piece := p.Layout.Outermost(i); piece >= 0 {
			name += " of " + p.Layout.Items[i].Name
			id = p.Layout.Items[piece].ID
		}
		lack := Lack{id, fmt.Sprintf("the formula of %s has no result at %s", name, b.Where())}
		if !slices.Contains(out, lack) {
			out = append(out, lack)
		}
	}
	return out
}

// lack says what of an item a format can't hold; empty for nothing. Where there are lights, they may shine on it.
func (f *Format) lack(p *engine.Plan, i int32, lights bool) string {
	item := p.Layout.Items[i]
	class := item.Kind.Class()
	value := func(key string) float64 { return p.ValueOf(i, key).At(0) }
	switch {
	case f.left[class] != "":
		return f.left[class]
	case (class == scene.Outlined || class == scene.Pictured) && f.Flat && lights && value("lit") != 0:
		return "light on it: left out"
	case class == scene.Outlined && f.round && scene.Gradients[int(value("gradient"))] == "radial" && value("gradientWidth") != 100:
		return "elliptical gradient: round"
	case class == scene.Pictured && f.whole && slices.ContainsFunc(item.Frames, func(frame scene.Frame) bool { return frame.Part != [4]int{} }):
		return "a part of a picture: left out"
	case class == scene.Pictured && f.Flat && value("tintStrength") > 0:
		return "tint: left out"
	case f.fixed == nil:
		return ""
	case item.Kind == scene.AmbientLight:
		return "light from everywhere: left out"
	}
	var all []string
	if class == scene.Solid && len(item.Frames) > 0 {
		all = append(all, "picture on it: left out")
	}
	for _, key := range f.fixed[class] {
		if spec := item.Spec(key); spec != nil && (p.DrivenAt(i, key) || len(item.State(key).Pins) > 0) {
			all = append(all, spec.Name+": as at the first frame")
		}
	}
	return strings.Join(all, "; ")
}
