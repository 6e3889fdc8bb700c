package outline

import (
	"bytes"
	_ "embed" // the fonts
	"strings"
	"sync"
	"unicode"

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

//go:embed fonts/IBMPlexMono-Medium.ttf
var plexMonoMedium []byte

// fonts are the fonts that a text can have, by number. A character that the chosen one lacks is
// taken from the first of the others that has it.
var fonts = sync.OnceValue(func() []*font.Face {
	var faces []*font.Face
	for _, data := range [][]byte{frauncesBold, plexSansMedium, plexMonoMedium} {
		face, err := font.ParseTTF(bytes.NewReader(data))
		if err != nil {
			panic("a shipped font cannot be read: " + err.Error()) // the build itself is broken
		}
		faces = append(faces, face)
	}
	return faces
})

// Style is how a text is set.
type Style struct {
	Font          int     // 0 Fraunces, 1 IBM Plex Sans, 2 IBM Plex Mono
	Size          float64 // of the font, in pixels
	LetterSpacing float64 // pixels between letters
	LineHeight    float64 // distance of two baselines as a multiple of the size
	Align         float64 // which part of a line stands at x = 0: 0 its start, 0.5 its middle, 1 its end
}

// words is a text in a font, before it is set.
type words struct {
	text string
	font int
}

// texts remembers the letters of recent texts at size 1; faces and shaper are not safe for
// concurrent use, so one lock guards them all.
var texts = struct {
	sync.Mutex
	shaper shaping.HarfbuzzShaper
	recent map[words][]line
}{recent: map[words][]line{}}

// maxRecent bounds the memory of the outlines that are remembered.
const maxRecent = 2000

// Text returns the outline of a text. The baseline of the first line is y = 0. Kerning and
// ligatures of the font apply where no letter spacing is asked for.
func Text(s string, style Style) Path {
	texts.Lock()
	defer texts.Unlock()
	var out Path
	for k, l := range setText(s, style.Font) {
		x, y := float64(-l.wide(style)*style.Align), float64(float64(-style.LineHeight*style.Size)*float64(k))
		for n, letter := range l.letters {
			out.Verbs = append(out.Verbs, letter.Verbs...)
			dx := x + float64(style.LetterSpacing*float64(n))
			for i := 0; i < len(letter.Points); i += 2 {
				out.Points = append(out.Points, dx+float64(letter.Points[i]*style.Size), y+float64(letter.Points[i+1]*style.Size))
			}
		}
	}
	return out
}

// Letter is a letter of a text and where its pen stands.
type Letter struct {
	Text string
	At   [2]float64
}

// Apart returns the letters of a text as it is set, blanks left out: each of them, set by itself from the
// left at its place, is drawn as it is in the text.
func Apart(s string, style Style) []Letter {
	texts.Lock()
	defer texts.Unlock()
	var out []Letter
	for k, l := range setText(s, style.Font) {
		x, y := float64(-l.wide(style)*style.Align), float64(float64(-style.LineHeight*style.Size)*float64(k))
		for _, m := range l.marks {
			if strings.TrimSpace(m.text) != "" {
				out = append(out, Letter{m.text, [2]float64{x + float64(m.x*style.Size) + float64(style.LetterSpacing*float64(m.glyph)), y}})
			}
		}
	}
	return out
}

// Letters returns how many letters a text has; blanks are none.
func Letters(s string) int {
	n := 0
	for _, r := range s {
		if !unicode.IsSpace(r) {
			n++
		}
	}
	return n
}

// line is a line of text at size 1: the outline of every glyph where the pen puts it.
type line struct {
	letters []Path
	width   float64
	marks   []mark
}

// mark is a letter of a line: mostly one glyph; several where accents stand over one, one for several
// characters where the font joins them.
type mark struct {
	text  string
	x     float64 // of the pen before it
	glyph int     // the first
}

// glyph is a glyph with its pen position at size 1.
type glyph struct {
	face *font.Face
	id   font.GID
	x, y float64
}

func layLine(text []rune, chosen int) line {
	var out line
	for start := 0; start < len(text); {
		face := faceFor(text[start], chosen)
		end := start + 1
		for end < len(text) && faceFor(text[end], chosen) == face {
			end++
		}
		upem := float64(face.Upem())
		shaped := texts.shaper.Shape(shaping.Input{
			Text: text, RunStart: start, RunEnd: end,
			Direction: di.DirectionLTR, Face: face,
			Size:   fixed.I(int(face.Upem())), // in font units, so that advances are exact
			Script: language.LookupScript(text[start]),
		})
		for n, g := range shaped.Glyphs {
			if from := g.TextIndex(); n == 0 || from != shaped.Glyphs[n-1].TextIndex() {
				out.marks = append(out.marks, mark{string(text[from:min(len(text), from+g.RunesCount())]), out.width, len(out.letters)})
			}
			var p Path
			p.addGlyph(glyph{face, g.GlyphID, out.width + units(g.XOffset)/upem, units(g.YOffset) / upem})
			out.letters = append(out.letters, p)
			out.width += units(g.Advance) / upem
		}
		start = end
	}
	return out
}

func units(x fixed.Int26_6) float64 { return float64(x) / 64 }

// faceFor returns the chosen font, or the first other one that has the character.
func faceFor(r rune, chosen int) *font.Face {
	all := fonts()
	first := all[min(max(chosen, 0), len(all)-1)]
	for _, face := range append([]*font.Face{first}, all...) {
		if _, ok := face.NominalGlyph(r); ok {
			return face
		}
	}
	return first
}

func (p *Path) addGlyph(g glyph) {
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
			p.Points = append(p.Points, g.x+float64(a.X)/upem, g.y+float64(a.Y)/upem)
		}
	}
	if open {
		p.add(Close)
	}
}

// Width returns how far the pen goes along the longest line of a text, in pixels.
func Width(s string, style Style) float64 {
	texts.Lock()
	defer texts.Unlock()
	wide := 0.0
	for _, l := range setText(s, style.Font) {
		wide = max(wide, l.wide(style))
	}
	return wide
}

func (l *line) wide(style Style) float64 {
	return float64(l.width*style.Size) + float64(style.LetterSpacing*float64(max(0, len(l.letters)-1)))
}

// setText lays a text out at size 1; texts is locked.
func setText(s string, font int) []line {
	key := words{s, font}
	lines, ok := texts.recent[key]
	if !ok {
		if len(texts.recent) >= maxRecent {
			clear(texts.recent)
		}
		for _, l := range strings.Split(s, "\n") {
			lines = append(lines, layLine([]rune(strings.TrimSuffix(l, "\r")), font))
		}
		texts.recent[key] = lines
	}
	return lines
}
