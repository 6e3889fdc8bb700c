package bridge

import (
	"encoding/binary"
	"encoding/json"

	"wunderkammer/core/engine"
	"wunderkammer/core/session"
)

// maxFirst bounds the numbers that the shapes of a first frame come to: 16 MB.
const maxFirst = 4 << 20

// First is the first frame of a project that was just opened, as the core of a page that knows so many texts will
// evaluate it; nil where the core breaks on it, it is too large, or stop says so, which is asked now and then.
func First(s *session.Session, texts int, stop func() bool) *Frame {
	b := Bridge{session: s, texts: texts}
	s.Plan().Stop = stop
	f, _ := b.shown(0, func() {
		if len(b.frame.Shapes) > maxFirst || stop() {
			panic(engine.Stopped)
		}
	})
	return f
}

// Framed puts the length of some JSON before it, in four bytes, little-endian, and behind it as many spaces as make all of
// it a multiple of eight.
func Framed(text []byte) []byte {
	out := append(binary.LittleEndian.AppendUint32(make([]byte, 0, len(text)+11), 0), text...)
	for len(out)%8 > 0 {
		out = append(out, ' ')
	}
	binary.LittleEndian.PutUint32(out, uint32(len(out)-4))
	return out
}

// Encode writes a frame that is the first one, for a page to read as it is: a head, Framed; then, little-endian, the
// values as 64-bit numbers, the shapes, the particles and the copies as 32-bit numbers.
func (f *Frame) Encode() ([]byte, error) {
	head, err := json.Marshal(struct {
		Values    int      `json:"values"`
		Shapes    int      `json:"shapes"`
		Particles int      `json:"particles"`
		Copies    int      `json:"copies"`
		Texts     []string `json:"texts,omitempty"`
	}{len(f.Whole), len(f.Shapes), len(f.Particles), len(f.Copies), f.Texts})
	if err != nil {
		return nil, err
	}
	out := append(make([]byte, 0, 16+len(head)+8*len(f.Whole)+4*len(f.Shapes)+4*len(f.Particles)+4*len(f.Copies)), Framed(head)...)
	for _, part := range []any{f.Whole, f.Shapes, f.Particles, f.Copies} {
		if out, err = binary.Append(out, binary.LittleEndian, part); err != nil {
			return nil, err
		}
	}
	return out, nil
}
