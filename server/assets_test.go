package server

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/gif"
	"image/png"
	"net/http"
	"strings"
	"testing"
)

func pictureOf(t *testing.T, w, h int) string {
	t.Helper()
	var b bytes.Buffer
	if err := png.Encode(&b, image.NewNRGBA(image.Rect(0, 0, w, h))); err != nil {
		t.Fatal(err)
	}
	return b.String()
}

// keep sends a picture and returns the frames that it became.
func (s *site) keep(data string) []Asset {
	s.t.Helper()
	r := s.ask("POST", "/api/assets", strings.NewReader(data))
	var kept struct{ Frames []Asset }
	if err := json.Unmarshal([]byte(r.body), &kept); err != nil || r.status != http.StatusCreated {
		s.t.Fatalf("%d %s", r.status, r.body)
	}
	return kept.Frames
}

func TestPicturesAreKeptOnceAndSentAsTheyCame(t *testing.T) {
	s := newSite(t, "")
	data := pictureOf(t, 5, 3)
	first, again := s.keep(data), s.keep(data)
	if len(first) != 1 || first[0] != again[0] || first[0].Width != 5 || first[0].Height != 3 {
		t.Errorf("kept as %v and %v", first, again)
	}
	r := s.ask("GET", "/api/assets/"+string(first[0].ID), nil)
	if r.status != http.StatusOK || r.body != data || r.header.Get("Content-Type") != "image/png" || !strings.Contains(r.header.Get("Cache-Control"), "immutable") {
		t.Errorf("%d %v", r.status, r.header)
	}
	if r := s.ask("GET", "/api/assets/"+strings.Repeat("0", 64), nil); r.status != http.StatusNotFound {
		t.Errorf("a picture that is not there: %d", r.status)
	}
}

func TestAnAnimationBecomesFrames(t *testing.T) {
	s := newSite(t, "")
	var g gif.GIF
	for i := range 3 {
		m := image.NewPaletted(image.Rect(0, 0, 4, 4), color.Palette{color.Black, color.White})
		m.SetColorIndex(i, i, 1)
		g.Image, g.Delay = append(g.Image, m), append(g.Delay, 4)
	}
	var b bytes.Buffer
	if err := gif.EncodeAll(&b, &g); err != nil {
		t.Fatal(err)
	}
	frames := s.keep(b.String())
	if len(frames) != 3 || frames[0].ID == frames[1].ID {
		t.Errorf("the frames are %v", frames)
	}
	if r := s.ask("GET", "/api/assets/"+string(frames[2].ID), nil); r.header.Get("Content-Type") != "image/png" {
		t.Errorf("a frame is %s", r.header.Get("Content-Type"))
	}
}

func TestWhatIsNoPictureIsRefused(t *testing.T) {
	s := newSite(t, "")
	for says, body := range map[string]string{
		"The file is empty.":            "",
		"neither a picture nor a sound": "<svg onload='alert(1)'/>",
		"damaged":                       pictureOf(t, 300, 300)[:90],
	} {
		if r := s.ask("POST", "/api/assets", strings.NewReader(body)); r.status != http.StatusUnprocessableEntity || !strings.Contains(r.problem(t), says) {
			t.Errorf("%d %.200s, want %q", r.status, r.body, says)
		}
	}
}

// A project with a picture and a sound goes out of one server and into another that never saw them.
func TestPackagesCarryTheirPicturesAndSounds(t *testing.T) {
	s, other := newSite(t, ""), newSite(t, "")
	picture, drum := pictureOf(t, 6, 4), "RIFF\x2c\x00\x00\x00WAVEfmt and what is heard"
	shown, heard := s.keep(picture)[0].ID, s.keep(drum)[0].ID
	ops := fmt.Sprintf(`{"op":"item.add","composition":"main","at":-1,"value":{"id":"flag","name":"Flag","kind":"picture","frames":[{"asset":"%s"}]}},
		{"op":"item.add","composition":"main","at":-1,"value":{"id":"drum","name":"Drum","kind":"sound","sound":{"asset":"%s","seconds":0.03,"start":7,"bands":"AAECA/8EBQYHCAkK"}}}`, shown, heard)
	if r := s.post(`{"id":"c1","base":0,"ops":[` + ops + `]}`); r.status != http.StatusOK {
		t.Fatalf("%d %s", r.status, r.body)
	}
	file := s.ask("GET", "/api/projects/"+s.project+"/package", nil)
	if r := other.ask("POST", "/api/projects/import", strings.NewReader(file.body)); r.status != http.StatusCreated {
		t.Fatalf("%d %s", r.status, r.body)
	}
	for id, data := range map[string]string{string(shown): picture, string(heard): drum} {
		if r := other.ask("GET", "/api/assets/"+id, nil); r.body != data {
			t.Errorf("%.12q did not come along: %d", data, r.status)
		}
	}
	// A part of it is sent, too, for who plays it from the middle.
	r := other.ask("GET", "/api/assets/"+string(heard), nil, "Range", "bytes=8-11")
	if r.status != http.StatusPartialContent || r.body != "WAVE" {
		t.Errorf("a part: %d %q", r.status, r.body)
	}
}
