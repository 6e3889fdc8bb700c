package server

import (
	"wunderkammer/core/change"
	"wunderkammer/core/format"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/store"
)

// What requests and answers hold, as JSON. Their comments are those of the description that scripts read: see Routes.

// ProblemDetails is an error as RFC 9457 wants it.
type ProblemDetails struct {
	Type     string       `json:"type"`
	Title    string       `json:"title"`
	Status   int          `json:"status"`
	Detail   string       `json:"detail"`             // what is wrong, and the way out, in a sentence
	Revision int          `json:"revision,omitempty"` // where a change was outdated: the revision that the project is at
	Changes  []ToldChange `json:"changes,omitempty"`  // where a change was outdated: what came first
}

// HealthState says that the server works.
type HealthState struct {
	Status string `json:"status"` // ok
}

// ListedProject is a project in a list.
type ListedProject struct {
	store.Summary
	Example bool `json:"example,omitempty"` // it came with the application
}

// MadeProject is a project that was made, or found.
type MadeProject struct {
	ID    scene.ID `json:"id"`
	Name  string   `json:"name"`
	Notes []string `json:"notes,omitempty"` // what was mended or is missing, in sentences
}

// NewProject names a project.
type NewProject struct {
	Name string `json:"name"`
}

// ExampleAsked says which example is wanted.
type ExampleAsked struct {
	Fresh bool `json:"fresh"` // another one, as it is at first
}

// LoadedProject is a project with its revision.
type LoadedProject struct {
	Revision int            `json:"revision"`
	History  string         `json:"history"` // which the revision belongs to: another one after a backup was restored
	Project  *scene.Project `json:"project"`
	Healed   []string       `json:"healed,omitempty"`  // what was mended, in sentences
	Checked  bool           `json:"checked,omitempty"` // whether it is sound
}

// BroughtProject is what a project file holds.
type BroughtProject struct {
	Project *scene.Project `json:"project"`
	Part    scene.Part     `json:"part"`
	Notes   []string       `json:"notes"` // what was mended or is missing, in sentences
}

// SentChange is a change that somebody makes: operations on a revision. The same change, by its id, is made once, however often it is sent.
type SentChange struct {
	session.Change
	Ops     change.Exact `json:"ops"`
	History string       `json:"history,omitempty"` // which the revision belongs to; empty: any
}

// Revised says which revision a change made.
type Revised struct {
	Revision int `json:"revision"`
}

// ChangeIDs names changes.
type ChangeIDs struct {
	IDs []string `json:"ids"`
}

// ToldChange is a change as it is told. Whoever was handed off a composition is told of its readings; of all else only that something
// inside may have changed.
type ToldChange struct {
	session.Change
	Rig bool `json:"rig,omitempty"` // what was handed off may be another
}

// NewAddress asks for an address of a composition that is handed off.
type NewAddress struct {
	Name     string `json:"name"`               // whom it is for
	Password string `json:"password,omitempty"` // empty: none
}

// Entering is the password of an address.
type Entering struct {
	Password string `json:"password"`
}

// ServerExports are the exports of a project that the server makes.
type ServerExports struct {
	Able    bool     `json:"able"` // false: nobody makes any here
	Exports []Export `json:"exports"`
}

// NewExport asks for an export.
type NewExport struct {
	ID    string       `json:"id"` // made by who asks: the same one asked for twice is one
	Asked format.Asked `json:"asked" ts:"part"`
	Name  string       `json:"name"` // of the file
}

// KeptFiles are the files that came of one that was sent: a picture, the pictures of an animation, or a sound.
type KeptFiles struct {
	Frames []Asset `json:"frames"`
}

// Asset is a picture or a sound. A sound has no size.
type Asset struct {
	ID     scene.AssetID `json:"id"`
	Width  int           `json:"width"` // pixels
	Height int           `json:"height"`
}
