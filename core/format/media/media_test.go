package media

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/gif"
	"image/jpeg"
	"runtime"
	"strings"
	"testing"
)

func still(w, h int) []byte {
	p, err := Encode(image.NewNRGBA(image.Rect(0, 0, w, h)))
	if err != nil {
		panic(err)
	}
	return p.Data
}

// wide is the head of a PNG that says it is w pixels wide.
func wide(w uint32) []byte {
	b := still(1, 1)
	binary.BigEndian.PutUint32(b[16:], w)
	binary.BigEndian.PutUint32(b[29:], crc32.ChecksumIEEE(b[12:29]))
	return b
}

func TestPicturesAreKnownByTheirContent(t *testing.T) {
	var b bytes.Buffer
	if err := jpeg.Encode(&b, image.NewNRGBA(image.Rect(0, 0, 30, 20)), nil); err != nil {
		t.Fatal(err)
	}
	for want, data := range map[string][]byte{"image/png": still(30, 20), "image/jpeg": b.Bytes()} {
		p, err := Read(data)
		if err != nil || len(p) != 1 || p[0].Type != want || p[0].Width != 30 || p[0].Height != 20 || !p[0].ID.Valid() || !bytes.Equal(p[0].Data, data) {
			t.Errorf("%s: %v, %v", want, p, err)
		}
	}
	again, _ := Read(still(30, 20))
	if once, _ := Read(still(30, 20)); once[0].ID != again[0].ID {
		t.Error("the same picture has two ids")
	}
}

func TestAnAnimationIsTakenApart(t *testing.T) {
	palette := color.Palette{color.Transparent, color.NRGBA{255, 0, 0, 255}, color.NRGBA{0, 0, 255, 255}}
	frame := func(r image.Rectangle, c uint8) *image.Paletted {
		m := image.NewPaletted(r, palette)
		for i := range m.Pix {
			m.Pix[i] = c
		}
		return m
	}
	var b bytes.Buffer
	if err := gif.EncodeAll(&b, &gif.GIF{
		Image:    []*image.Paletted{frame(image.Rect(0, 0, 4, 4), 1), frame(image.Rect(0, 0, 2, 2), 2), frame(image.Rect(2, 2, 4, 4), 2)},
		Delay:    []int{5, 5, 5},
		Disposal: []byte{gif.DisposalNone, gif.DisposalPrevious, gif.DisposalNone},
		Config:   image.Config{Width: 4, Height: 4, ColorModel: palette},
	}); err != nil {
		t.Fatal(err)
	}
	frames, err := Read(b.Bytes())
	if err != nil || len(frames) != 3 {
		t.Fatalf("%d frames, %v", len(frames), err)
	}
	for k, want := range []string{"rrrr", "bbrr", "rrbb"} {
		m, err := formats[0].decode(frames[k].Data)
		if err != nil {
			t.Fatal(err)
		}
		got := ""
		for i := range 4 {
			if r, _, _, _ := m.At(i, i).RGBA(); r > 0 {
				got += "r"
			} else {
				got += "b"
			}
		}
		if got != want {
			t.Errorf("frame %d is %s, want %s", k+1, got, want)
		}
	}
}

func TestWhatIsNoPictureIsRefused(t *testing.T) {
	for says, data := range map[string][]byte{
		"the file is empty":             {},
		"neither a picture nor a sound": []byte("<svg/> or anything"),
		"50000 × 1 pixels":              wide(50000),
		"ends too early":                []byte("\x89PNG\r\n\x1a\n junk"),
		"damaged":                       still(200, 200)[:120],
		"PNG, JPEG, WebP, GIF":          []byte("MZ\x90 a program"),
		"more than 32 MB":               append(still(1, 1), make([]byte, MaxBytes)...),
		"is damaged: it":                append([]byte("RIFF\x20\x00\x00\x00WEBPVP8L"), still(1, 1)...),
	} {
		p, err := Read(data)
		if err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%v, %v; want %q", len(p), err, says)
		}
	}
}

func FuzzRead(f *testing.F) {
	f.Add(still(3, 2))
	f.Add([]byte("GIF89a\x01\x00\x01\x00"))
	f.Fuzz(func(t *testing.T, data []byte) {
		frames, err := Read(data)
		for _, p := range frames {
			if err != nil || p.Width < 1 || p.Height < 1 || !p.ID.Valid() {
				t.Errorf("%v, %v", p, err)
			}
		}
	})
}

// An animation of a few bytes that would come to many pixels is refused by its headers.
func TestAnimationsAreCountedBeforeTheyAreDecoded(t *testing.T) {
	frame := "\x2c\x00\x00\x00\x00\x01\x00\x01\x00\x00" + "\x02\x02\x44\x01\x00"
	head := "GIF89a\x00\x10\x00\x10\x80\x00\x00\x00\x00\x00\xff\xff\xff" // 4096 × 4096
	data := []byte(head + strings.Repeat(frame, 900) + ";")
	if n := countFrames(data); n != 900 {
		t.Fatalf("%d frames are counted", n)
	}
	var before, after runtime.MemStats
	runtime.ReadMemStats(&before)
	_, err := Read(data)
	runtime.ReadMemStats(&after)
	if err == nil || !strings.Contains(err.Error(), "900 frames of 4096 × 4096") || after.TotalAlloc-before.TotalAlloc > 64<<20 {
		t.Errorf("%v after %d MB", err, (after.TotalAlloc-before.TotalAlloc)>>20)
	}
	for _, broken := range []string{head, head + "\x2c", head + "\x21\xf9", head + "\x21\xf9\xff", head[:8]} {
		if n := countFrames([]byte(broken)); n > 1 {
			t.Errorf("%q has %d frames", broken, n)
		}
	}
}

func TestSoundsAreKnownByHowTheyBegin(t *testing.T) {
	for begins, want := range map[string]string{
		"RIFF\x24\x08\x00\x00WAVEfmt ": "audio/wav", "OggS\x00\x02": "audio/ogg", "fLaC\x00": "audio/flac", "ID3\x04": "audio/mpeg",
		"\xff\xfb\x90": "audio/mpeg", "\x00\x00\x00\x20ftypM4A ": "audio/mp4",
	} {
		files, err := Read([]byte(begins + "more"))
		if err != nil || len(files) != 1 || files[0].Type != want || !files[0].Sound() || string(files[0].Data) != begins+"more" {
			t.Errorf("%q: %v, %v; want %s", begins, files, err, want)
		}
	}
	if files, err := Read([]byte("RIFF\x24\x08\x00\x00AVI LIST")); err == nil {
		t.Errorf("a film is kept as %s", files[0].Type)
	}
}
