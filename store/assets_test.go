package store

import (
	"errors"
	"fmt"
	"image"
	"image/color"
	"path/filepath"
	"strings"
	"testing"

	"wunderkammer/core/format/media"
)

func pictureOf(t *testing.T, n uint8) media.File {
	t.Helper()
	m := image.NewNRGBA(image.Rect(0, 0, 64, 64))
	for i := range m.Pix {
		m.Pix[i] = uint8(i*int(n) + i/7)
	}
	m.SetNRGBA(0, 0, color.NRGBA{n, n, n, 255})
	p, err := media.Encode(m)
	if err != nil {
		t.Fatal(err)
	}
	return p
}

func TestPicturesAreKeptOnceAndComeBackAfterReopening(t *testing.T) {
	file := filepath.Join(t.TempDir(), "test.db")
	s := open(t, file)
	p := pictureOf(t, 1)
	for range 2 {
		if err := s.Keep(p, p); err != nil {
			t.Fatal(err)
		}
	}
	other := p
	other.Data, other.Width = []byte("something else"), 9
	if err := s.Keep(other); err != nil { // under the name of what is there
		t.Fatal(err)
	}
	var n int64
	s.db.Model(&assetRow{}).Count(&n)
	s.Close()
	s = open(t, file)
	back, err := s.Asset(p.ID)
	if err != nil || n != 1 || string(back.Data) != string(p.Data) || back.Type != p.Type || back.Width != 64 {
		t.Errorf("%d rows; %v %s", n, err, back.Type)
	}
	if _, err := s.Asset("none"); !errors.Is(err, ErrNoAsset) {
		t.Errorf("a picture that is not there: %v", err)
	}
}

func TestAFullDiskKeepsThePicturesThatAreThere(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "test.db"))
	first := pictureOf(t, 1)
	if err := s.Keep(first); err != nil {
		t.Fatal(err)
	}
	var pages int
	s.db.Raw("PRAGMA page_count").Scan(&pages)
	s.db.Exec(fmt.Sprintf("PRAGMA max_page_count = %d", pages+2))
	var full error
	for n := uint8(2); n < 60 && full == nil; n++ {
		full = s.Keep(pictureOf(t, n))
	}
	if !errors.Is(full, ErrUnwritable) || !strings.Contains(full.Error(), "the disk is full") {
		t.Errorf("on a full disk: %v", full)
	}
	if _, err := s.Asset(first.ID); err != nil {
		t.Errorf("the first picture: %v", err)
	}
	s.db.Exec("PRAGMA max_page_count = 1000000")
	if err := s.Keep(pictureOf(t, 99)); err != nil {
		t.Errorf("with room again: %v", err)
	}
}
