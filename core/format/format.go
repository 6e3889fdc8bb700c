// Package format is the table of the files that a composition goes out as, and what each of them can't hold. Whoever offers,
// writes or documents formats reads it.
package format

import "wunderkammer/core/scene"

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
}

// Groups that formats are offered under.
const (
	moving = "Moving pictures"
	still  = "Still and data"
)

// Formats lists all that a composition can be exported as, as they are offered.
var Formats = []*Format{
	{Key: "mp4", Name: "MP4", Group: moving, Extension: "mp4", Codec: "avc", Even: true, Sound: true, About: "H.264, which plays everywhere."},
	{Key: "webm", Name: "WebM", Group: moving, Extension: "webm", Codec: "vp9", Even: true, Sound: true, About: "VP9, for the web: smaller than MP4 at the same quality."},
	{Key: "av1", Name: "WebM (AV1)", Group: moving, Extension: "webm", Codec: "av1", Even: true, Sound: true, About: "AV1, for newer browsers: smaller still, and slower to encode."},
	{Key: "png", Name: "Numbered PNG", Group: moving, Extension: "zip", Clear: true, About: "A PNG for each frame, in a zip: exact, for the edit, with transparency if wanted."},
	{Key: "apng", Name: "Animated PNG", Group: moving, Extension: "png", Clear: true, Loops: true, About: "One exact picture that moves, with soft transparency. Large: keep it small and short."},
	{Key: "webp", Name: "Animated WebP", Group: moving, Extension: "webp", Clear: true, Loops: true, About: "A picture that moves, with soft transparency, for pages and chats: much smaller than animated PNG."},
	{Key: "gif", Name: "Animated GIF", Group: moving, Extension: "gif", Clear: true, Loops: true, About: "256 colours a frame, which moves in every mail. What is transparent has hard edges."},
	{Key: "picture", Name: "PNG of a frame", Group: still, Extension: "png", Clear: true, One: true, About: "One frame as a picture, with transparency if wanted."},
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

// Lacks lists what of a composition a format can't hold, item by item.
func (f *Format) Lacks(c *scene.Composition) []Lack {
	out := []Lack{}
	for _, item := range c.Items {
		if item.Sound != nil && !f.Sound && !item.Hidden && !item.NotInOutput {
			out = append(out, Lack{item.ID, "sound: left out"})
		}
	}
	return out
}
