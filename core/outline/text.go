package outline

import (
	"bytes"
	_ "embed" // the fonts
	"strings"
	"sync"

	"github.com/go-text/typesetting/di"
	"github.com/go-text/typesetting/font"
	"github.com/go-text/typesetting/font/opentype"
	"github.com/go-text/typesetting/language"
	"github.com/go-text/typesetting/shaping"
	"golang.org/x/image/math/fixed"
)

//go:embed fonts/Fraunces-Bold.ttf
var frauncesBold []byte

//go:embed fonts/IBMPlexSans-Medium.ttf
var plexSansMedium []byte

// LineHeight is the distance of two baselines as a multiple of the font size.
const LineHeight = 1.2

// fonts are tried in this order for each character.
var fonts = sync.OnceValue(func() []*font.Face {
	var faces []*font.Face
	for _, data := range [][]byte{frauncesBold, plexSansMedium} {
		face, err := font.ParseTTF(bytes.NewReader(data))
		if err != nil {
			panic("a shipped font cannot be read: " + err.Error()) // the build itself is broken
		}
		faces = append(faces, face)
	}
	return faces
})

// texts remembers the outlines of recent texts at size 1; faces and shaper are not safe for
// concurrent use, so one lock guards them all.
var texts = struct {
	sync.Mutex
	shaper shaping.HarfbuzzShaper
	recent map[string]*Path
}{recent: map[string]*Path{}}

// maxRecent bounds the memory of the outlines that are remembered.
const maxRecent = 2000

// Text returns the outline of a text whose lines are centred on x = 0; the baseline of the first
// line is y = 0. The size is that of the font in pixels. Kerning and ligatures of the font apply.
func Text(s string, size float64) Path {
	texts.Lock()
	defer texts.Unlock()
	unit, ok := texts.recent[s]
	if !ok {
		if len(texts.recent) >= maxRecent {
			clear(texts.recent)
		}
		unit = layText(s)
		texts.recent[s] = unit
	}
	out := Path{Verbs: unit.Verbs, Points: make([]float64, len(unit.Points))}
	for i, x := range unit.Points {
		out.Points[i] = x * size
	}
	return out
}

// layText lays out a text at size 1.
func layText(s string) *Path {
	p := &Path{}
	for i, line := range strings.Split(s, "\n") {
		layLine(p, []rune(strings.TrimSuffix(line, "\r")), -LineHeight*float64(i))
	}
	return p
}

// placed is a glyph with its pen position at size 1.
type placed struct {
	face *font.Face
	id   font.GID
	x, y float64
}

func layLine(p *Path, line []rune, baseline float64) {
	var glyphs []placed
	pen := 0.0
	for start := 0; start < len(line); {
		face := faceFor(line[start])
		end := start + 1
		for end < len(line) && faceFor(line[end]) == face {
			end++
		}
		upem := float64(face.Upem())
		out := texts.shaper.Shape(shaping.Input{
			Text: line, RunStart: start, RunEnd: end,
			Direction: di.DirectionLTR, Face: face,
			Size:   fixed.I(int(face.Upem())), // in font units, so that advances are exact
			Script: language.LookupScript(line[start]),
		})
		for _, g := range out.Glyphs {
			glyphs = append(glyphs, placed{face, g.GlyphID, pen + units(g.XOffset)/upem, units(g.YOffset) / upem})
			pen += units(g.Advance) / upem
		}
		start = end
	}
	for _, g := range glyphs {
		p.addGlyph(g, g.x-pen/2, baseline+g.y)
	}
}

func units(x fixed.Int26_6) float64 { return float64(x) / 64 }

// faceFor returns the first font that has the character, or the first of all.
func faceFor(r rune) *font.Face {
	for _, face := range fonts() {
		if _, ok := face.NominalGlyph(r); ok {
			return face
		}
	}
	return fonts()[0]
}

func (p *Path) addGlyph(g placed, x, y float64) {
	outline, ok := g.face.GlyphData(g.id).(font.GlyphOutline)
	if !ok {
		return
	}
	upem := float64(g.face.Upem())
	open := false
	for i := range outline.Segments {
		s := &outline.Segments[i]
		var verb Verb
		switch s.Op {
		case opentype.SegmentOpMoveTo:
			if open {
				p.add(Close)
			}
			verb, open = MoveTo, true
		case opentype.SegmentOpLineTo:
			verb = LineTo
		case opentype.SegmentOpQuadTo:
			verb = QuadTo
		case opentype.SegmentOpCubeTo:
			verb = CubicTo
		}
		p.Verbs = append(p.Verbs, verb)
		for _, a := range s.ArgsSlice() {
			p.Points = append(p.Points, x+float64(a.X)/upem, y+float64(a.Y)/upem)
		}
	}
	if open {
		p.add(Close)
	}
}
