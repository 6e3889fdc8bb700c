package lottie

import (
	"strings"

	"wunderkammer/core/format/brought"
	"wunderkammer/core/scene"
)

// one is an item of a size whose upper left corner is the origin of its layer.
func (r *reader) one(kind scene.Kind, name string, w, h float64, in context) ([]*node, error) {
	item, err := r.item(kind, name, kind.Info().Name)
	if err != nil {
		return nil, err
	}
	pair := func(v []float64) scene.Value { return scene.Pt(v[0], v[1]) }
	size := fitted([]float64{w, h}, []float64{100, 100})
	r.set(item, "size", fixed(size...), pair)
	shift := [2]float64{size[0] / 2, -size[1] / 2}
	r.set(item, "position", fixed(shift[0], shift[1], 0), func(v []float64) scene.Value { return scene.Pt(v[0], v[1], v[2]) })
	r.show(item, in)
	return []*node{{item: item, bare: true, shift: shift}}, nil
}

// solid makes a rectangle of a layer of one colour.
func (r *reader) solid(l *fileLayer, in context) ([]*node, error) {
	out, err := r.one(scene.Rectangle, l.Name, l.SolidW, l.SolidH, in)
	if err != nil {
		return nil, err
	}
	colour, ok := scene.FromHex(strings.TrimPrefix(l.Colour, "#"))
	if !ok {
		colour = scene.RGBA(0, 0, 0, 1)
	}
	out[0].item.Edit("fill").Own = colour
	return out, nil
}

// image makes a picture of a layer that shows one.
func (r *reader) image(l *fileLayer, in context) ([]*node, error) {
	for k := range r.file.Assets {
		a := &r.file.Assets[k]
		if a.ID != l.Ref || k >= len(r.pictures) || r.pictures[k] == "" {
			continue
		}
		out, err := r.one(scene.Picture, l.Name, a.Width, a.Height, in)
		if err == nil {
			out[0].item.Frames = []scene.Frame{{Asset: r.pictures[k]}}
		}
		return out, err
	}
	r.Miss("a picture that isn’t in the file")
	return nil, nil
}

// maxLetters bounds the letters of one text, in bytes.
const maxLetters = 20000

// text makes a text of a layer, as it is at first, in a font that ships.
func (r *reader) text(l *fileLayer, in context) ([]*node, error) {
	if l.Text == nil || len(l.Text.Document.Keys) == 0 {
		return nil, nil
	}
	if len(l.Text.Document.Keys) > 1 {
		r.Miss("a text that changes; it stays as it is at first")
	}
	if len(l.Text.Animators) > 0 {
		r.Miss("letters that move by themselves")
	}
	r.Miss("the font of a text, replaced by one that ships with Wunderkammer")
	says := l.Text.Document.Keys[0].Says
	words := strings.NewReplacer("\r\n", "\n", "\r", "\n", "\x03", "\n").Replace(strings.ToValidUTF8(says.Text, ""))
	if len(words) > maxLetters {
		words = strings.ToValidUTF8(words[:maxLetters], "")
	}
	item, err := r.item(scene.TextItem, l.Name, "Text")
	if err != nil {
		return nil, err
	}
	item.Edit("text").Own = scene.Txt(words)
	size := fitted([]float64{says.Size}, []float64{24})[0]
	for key, v := range map[string]float64{
		"font": float64(brought.Face(says.Font)), "fontSize": size, "letterSpacing": says.Tracking / 1000 * size, "lineHeight": 100 * says.Line / max(size, 1),
		"alignment": map[int]float64{0: 0, 1: 2, 2: 1}[says.Align],
	} {
		if key == "lineHeight" && says.Line <= 0 {
			continue
		}
		r.set(item, key, fixed(v), number)
	}
	item.Edit("fill").Own = rgba(fitted(says.Colour, []float64{0, 0, 0, 1}))
	r.show(item, in)
	return []*node{{item: item, bare: true}}, nil
}
