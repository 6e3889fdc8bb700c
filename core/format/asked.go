package format

import (
	"errors"
	"fmt"
	"math"

	"wunderkammer/core/scene"
)

// Asked is what is exported of a project, and how.
type Asked struct {
	Composition scene.ID `json:"composition"`
	Format      string   `json:"format"` // a key of Formats
	// Width and Height are the size in pixels; 0 follows the other, or the composition.
	Width  int `json:"width"`
	Height int `json:"height"`
	// From and To are the first and the last frame.
	From int `json:"from"`
	To   int `json:"to"`
	// Rate is how many pictures a second there are; 0 is as many as the composition has frames.
	Rate float64 `json:"rate"`
	// Clear leaves out the background.
	Clear bool `json:"clear"`
	// Loop is how often it plays; 0 is for ever.
	Loop int   `json:"loop"`
	Blur *Blur `json:"blur,omitempty"` // nil for none
	// Tolerance is how far shapes may be off, in pixels of the composition; 0 is DefaultTolerance.
	Tolerance float64 `json:"tolerance,omitempty"`
	// Part is what of its pictures is made; nil for all of them.
	Part *Part `json:"part,omitempty"`
	// Only are the items that a table is of; none: all of them.
	Only []scene.ID `json:"only,omitempty"`
}

// Part is a run of the pictures of an export, counted from 0. Parts hold no sound.
type Part struct {
	First int `json:"first"`
	Count int `json:"count"`
}

// Pictures returns how many pictures an export has that is settled, of a composition of so many frames a second.
func (a *Asked) Pictures(rate int) int {
	return max(1, int(math.Round(float64(a.To-a.From+1)*a.Rate/float64(rate))))
}

// Blur smears what moves: a picture is the average of so many, spread over the time that a shutter stands open for it,
// of which 360 degrees are a whole frame.
type Blur struct {
	Samples int     `json:"samples"`
	Angle   float64 `json:"angle"`
}

// DefaultTolerance is how far shapes may be off, in pixels, where nothing is said.
const DefaultTolerance = 0.1

// Bounds of what can be asked for.
const (
	MaxTolerance = 100   // pixels
	MaxSide      = 16384 // pixels
	MaxSamples   = 32
	MaxAngle     = 720 // degrees
	MaxRate      = 240 // pictures a second
)

// Settle fills in what was left open, and refuses what can't be done, with a sentence.
func (a *Asked) Settle(c *scene.Composition) error {
	f := Of(a.Format)
	if f == nil {
		return fmt.Errorf("there is no format %q; there are %s", scene.Clip(a.Format), keys())
	}
	a.Composition = c.ID
	if f.One {
		a.To = a.From
	}
	if a.Rate == 0 {
		a.Rate = float64(c.Rate)
	}
	switch last := c.Frames - 1; {
	case a.From < 0 || a.To > last || a.From > last:
		return fmt.Errorf("%s has the frames 0 to %d, not %d to %d", c.Name, last, a.From, a.To)
	case a.To < a.From:
		return fmt.Errorf("the last frame, %d, comes before the first, %d", a.To, a.From)
	case !(a.Rate >= 1 && a.Rate <= MaxRate):
		return fmt.Errorf("there can be 1 to %d pictures a second, not %v", MaxRate, a.Rate)
	case a.Clear && !f.Clear:
		return fmt.Errorf("%s holds no transparency; choose another format, or keep the background", f.Name)
	case a.Loop < 0 || a.Loop > math.MaxUint16:
		return fmt.Errorf("a picture plays 1 to %d times, or 0 for ever, not %d", math.MaxUint16, a.Loop)
	}
	if a.Tolerance == 0 {
		a.Tolerance = DefaultTolerance
	}
	if !(a.Tolerance > 0 && a.Tolerance <= MaxTolerance) {
		return fmt.Errorf("shapes may be off by more than 0 and at most %d px, not %v", MaxTolerance, a.Tolerance)
	}
	if b := a.Blur; b != nil && (b.Samples < 1 || b.Samples > MaxSamples || !(b.Angle >= 0 && b.Angle <= MaxAngle)) {
		return fmt.Errorf("motion blur has 1 to %d samples, and an angle of 0 to %d°", MaxSamples, MaxAngle)
	}
	return a.size(c, f)
}

// size fills in the size, of which one side may be left open.
func (a *Asked) size(c *scene.Composition, f *Format) error {
	if a.Width < 0 || a.Height < 0 {
		return errors.New("a picture is at least one pixel wide and high")
	}
	follow := func(side int, of, by int) int {
		x := int(math.Round(float64(side) * float64(of) / float64(by)))
		if f.Even {
			x = 2 * int(math.Round(float64(x)/2))
		}
		return max(1, x)
	}
	switch {
	case a.Width == 0 && a.Height == 0:
		a.Width, a.Height = follow(c.Width, 1, 1), follow(c.Height, 1, 1)
	case a.Width == 0:
		a.Width = follow(a.Height, c.Width, c.Height)
	case a.Height == 0:
		a.Height = follow(a.Width, c.Height, c.Width)
	}
	switch {
	case max(a.Width, a.Height) > MaxSide:
		return fmt.Errorf("a picture is at most %d pixels wide and high, not %d × %d", MaxSide, a.Width, a.Height)
	case f.Even && (a.Width%2 != 0 || a.Height%2 != 0):
		return fmt.Errorf("%s has even sizes only, not %d × %d", f.Name, a.Width, a.Height)
	}
	return nil
}

// keys lists the formats, for people.
func keys() string {
	s := ""
	for k, f := range Formats {
		switch {
		case k == len(Formats)-1:
			s += " and "
		case k > 0:
			s += ", "
		}
		s += f.Key
	}
	return s
}
