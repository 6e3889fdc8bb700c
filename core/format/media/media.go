// Package media looks pictures and sounds over before they are kept: what they are by their content; of pictures, how large, and
// whether they can be read to their end. An animated GIF is taken apart into its frames. Sounds are decoded by who plays them.
package media

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"image/gif"
	"image/jpeg"
	"image/png"
	"io"
	"strings"

	"golang.org/x/image/webp"

	"wunderkammer/core/scene"
)

// Bounds on what is taken.
const (
	MaxBytes  = 32 << 20
	MaxSide   = scene.MaxSide
	MaxPixels = 64 << 20
	MaxFrames = 1000 // of an animation
)

// File is a picture or a sound as it is kept, with what its bytes were found to be.
type File struct {
	ID            scene.AssetID
	Type          string // its media type
	Width, Height int    // of a picture, in pixels
	Data          []byte
}

// format is a way to write pictures or sounds.
type format struct {
	mediaType string
	magic     string // how files of it begin; a ? stands for any byte
	// Of pictures; a sound has neither.
	config func(data []byte) (image.Config, error)
	decode func(data []byte) (image.Image, error)
}

var formats = []format{
	{"image/png", "\x89PNG\r\n\x1a\n", config(png.DecodeConfig), whole(png.Decode)},
	{"image/jpeg", "\xff\xd8", config(jpeg.DecodeConfig), whole(jpeg.Decode)},
	{"image/gif", "GIF8?a", config(gif.DecodeConfig), whole(gif.Decode)},
	{"image/webp", "RIFF????WEBPVP8", config(webp.DecodeConfig), whole(webp.Decode)},
	{mediaType: "audio/wav", magic: "RIFF????WAVE"},
	{mediaType: "audio/ogg", magic: "OggS"},
	{mediaType: "audio/flac", magic: "fLaC"},
	{mediaType: "audio/mp4", magic: "????ftypM4A"},
	{mediaType: "audio/mpeg", magic: "ID3"},
	{mediaType: "audio/mpeg", magic: "\xff\xfb"},
	{mediaType: "audio/mpeg", magic: "\xff\xf3"},
	{mediaType: "audio/mpeg", magic: "\xff\xf2"},
}

func config(f func(io.Reader) (image.Config, error)) func([]byte) (image.Config, error) {
	return func(data []byte) (image.Config, error) { return f(bytes.NewReader(data)) }
}

func whole(f func(io.Reader) (image.Image, error)) func([]byte) (image.Image, error) {
	return func(data []byte) (image.Image, error) { return f(bytes.NewReader(data)) }
}

func (f *format) begins(data []byte) bool {
	if len(data) < len(f.magic) {
		return false
	}
	for i := range len(f.magic) {
		if f.magic[i] != '?' && f.magic[i] != data[i] {
			return false
		}
	}
	return true
}

// IDOf returns the id of content: its SHA-256 in hexadecimal digits.
func IDOf(data []byte) scene.AssetID {
	sum := sha256.Sum256(data)
	return scene.AssetID(hex.EncodeToString(sum[:]))
}

// Sound reports whether the file is one that can be heard.
func (f *File) Sound() bool { return strings.HasPrefix(f.Type, "audio/") }

// Read looks a file over and returns what to keep of it: a picture, the frames of an animation, or a sound.
func Read(data []byte) ([]File, error) {
	if len(data) == 0 {
		return nil, errors.New("the file is empty")
	}
	if len(data) > MaxBytes {
		return nil, fmt.Errorf("the file has more than %d MB; make the picture smaller, or save the sound as MP3 or Ogg", MaxBytes>>20)
	}
	for i := range formats {
		f := &formats[i]
		if !f.begins(data) {
			continue
		}
		if f.config == nil {
			return []File{{ID: IDOf(data), Type: f.mediaType, Data: data}}, nil
		}
		c, err := f.config(data)
		if err != nil {
			return nil, errors.New("the picture is damaged: it ends too early")
		}
		if err := checkSize(c.Width, c.Height); err != nil {
			return nil, err
		}
		if f.mediaType == "image/gif" {
			return readGIF(data)
		}
		if _, err := f.decode(data); err != nil {
			return nil, fmt.Errorf("the picture is damaged and can't be shown (%w)", err)
		}
		return []File{{IDOf(data), f.mediaType, c.Width, c.Height, data}}, nil
	}
	return nil, errors.New("the file is neither a picture nor a sound that can be read; use PNG, JPEG, WebP, GIF or SVG, WAV, MP3, Ogg, FLAC or M4A")
}

func checkSize(w, h int) error {
	if w < 1 || h < 1 {
		return errors.New("the picture has no pixels")
	}
	if w > MaxSide || h > MaxSide || w*h > MaxPixels {
		return fmt.Errorf("the picture has %d × %d pixels; the limit is %d per side and %d million altogether", w, h, MaxSide, MaxPixels>>20)
	}
	return nil
}

// maxDrawn bounds the pixels of all frames of an animation together.
const maxDrawn = 2 * MaxPixels

// readGIF draws the frames of an animation one over the other, as each says, and keeps each as PNG. How many frames there
// are, and how large, is read from their headers before one is decoded.
func readGIF(data []byte) ([]File, error) {
	c, err := gif.DecodeConfig(bytes.NewReader(data))
	if err != nil {
		return nil, fmt.Errorf("the picture is damaged and can't be shown (%w)", err)
	}
	w, h := c.Width, c.Height
	if n := countFrames(data); n > MaxFrames || w*h*n > maxDrawn {
		return nil, fmt.Errorf("the animation has %d frames of %d × %d pixels, which is too much; make it shorter or smaller", n, w, h)
	}
	g, err := gif.DecodeAll(bytes.NewReader(data))
	if err != nil {
		return nil, fmt.Errorf("the picture is damaged and can't be shown (%w)", err)
	}
	canvas := image.NewNRGBA(image.Rect(0, 0, w, h))
	var out []File
	for k, frame := range g.Image {
		var before *image.NRGBA
		if g.Disposal[k] == gif.DisposalPrevious {
			before = image.NewNRGBA(canvas.Rect)
			copy(before.Pix, canvas.Pix)
		}
		draw.Draw(canvas, frame.Bounds(), frame, frame.Bounds().Min, draw.Over)
		p, err := Encode(canvas)
		if err != nil {
			return nil, err
		}
		out = append(out, p)
		switch g.Disposal[k] {
		case gif.DisposalBackground:
			draw.Draw(canvas, frame.Bounds(), image.NewUniform(color.Transparent), image.Point{}, draw.Src)
		case gif.DisposalPrevious:
			canvas = before
		}
	}
	return out, nil
}

// countFrames counts the frames of a GIF by its blocks, as far as it can be read (section 23 of the GIF89a
// specification).
func countFrames(data []byte) (n int) {
	at := 13
	table := func(flags byte) int { // of colours
		if flags&0x80 == 0 {
			return 0
		}
		return 3 << (flags&7 + 1)
	}
	if len(data) < at {
		return 0
	}
	at += table(data[10])
	for at < len(data) {
		switch data[at] {
		case 0x21: // an extension: its label stands before its blocks
			at += 2
		case 0x2c: // a frame
			n++
			if at+9 >= len(data) {
				return n
			}
			at += 10 + table(data[at+9]) + 1
		default:
			return n
		}
		for at < len(data) && data[at] != 0 {
			at += 1 + int(data[at])
		}
		at++
	}
	return n
}

// Encode returns an image as a PNG with its id; an error where the image is too large to be encoded.
func Encode(m image.Image) (File, error) {
	var b bytes.Buffer
	if err := png.Encode(&b, m); err != nil {
		return File{}, err
	}
	data := b.Bytes()
	return File{IDOf(data), "image/png", m.Bounds().Dx(), m.Bounds().Dy(), data}, nil
}
