package server

import (
	"strings"

	"github.com/gin-gonic/gin"

	"wunderkammer/core/ask"
	"wunderkammer/core/scene"
	"wunderkammer/core/session"
	"wunderkammer/core/view"
	"wunderkammer/store"
)

// Route is an address of the API, with what its description says of it.
type Route struct {
	Method, Path string // the path as the router writes it: a part that is :named stands for any
	Group        string // under which it is told
	Does         string // what it does, as a short sentence without a full stop
	More         string // what else is to be known
	Query        []Parameter
	Body         any    // a value of the type that it takes as JSON; nil: none, or a file
	Takes        string // the type of the file that it takes; empty: none
	Answer       any    // a value of the type that it answers with as JSON; nil: nothing, or what Sends says
	Sends        string // the type of what it sends where that is no JSON
	Status       int    // of a good answer; 0: 200, or 204 where there is nothing in it
	Makes        bool   // it answers with 201 where it had to make what it answers with
	Refuses      []int  // the statuses of its refusals, besides those that any address may have

	handle func(*Server, *gin.Context)
}

// Parameter is a word of a query, such as ?frame=48.
type Parameter struct {
	Name string
	Does string
	Type any  // a value of its type
	Many bool // it may be there several times
	Must bool // it has to be there
}

// The groups of addresses.
const (
	Scripts    = "Scripts"
	Projects   = "Projects"
	ChangeLog  = "Changes"
	Files      = "Files"
	HandOffs   = "Hand-offs"
	ExportJobs = "Exports"
)

// What several addresses take.
var (
	compositionNamed = Parameter{Name: "composition", Does: "The name or the id of the composition, or of a reading of one; the first of the project, if absent.", Type: ""}
	sinceRevision    = Parameter{Name: "since", Does: "The revision after which to begin; 0: all.", Type: 0}
)

const packageType = "application/zip"

// Routes are the addresses of the API, but those of the front end.
func Routes() []Route {
	return append([]Route{
		{Method: "GET", Path: "/api/openapi.json", Group: Scripts, Does: "This description", Sends: "application/json", handle: (*Server).describe},
		{Method: "GET", Path: "/api/projects", Group: Scripts, Does: "List the projects", More: "The last one that was changed comes first.", Query: []Parameter{{Name: "deleted", Does: "Anything: those in the bin.", Type: ""}}, Answer: []ListedProject{}, handle: (*Server).list},
		{Method: "GET", Path: "/api/projects/:id/compositions", Group: Scripts, Does: "List the compositions of a project, readings among them", Answer: []ListedComposition{}, Refuses: []int{404}, handle: (*Server).compositions},
		{Method: "GET", Path: "/api/projects/:id/controls", Group: Scripts, Does: "List the controls of a composition, with what they show at a frame", Query: []Parameter{compositionNamed, {Name: "frame", Does: "The frame; 0, if absent.", Type: 0.0}}, Answer: []ask.ControlValue{}, Refuses: []int{404, 503}, handle: (*Server).controls},
		{Method: "POST", Path: "/api/projects/:id/controls", Group: Scripts, Does: "Set controls, or other properties, by their names", More: "All of them are set, or none. Pages that have the project open show it at once, and it can be undone there like any change. With an id, the same one sent twice is made once.", Body: ControlsSet{}, Answer: SetControls{}, Refuses: []int{404, 422, 503}, handle: (*Server).setControls},
		{Method: "GET", Path: "/api/projects/:id/values", Group: Scripts, Does: "Work out the values of properties and formulas at frames", More: "At most 1,000 frames and 100,000 values at once.", Query: []Parameter{
			compositionNamed,
			{Name: "name", Does: "A property as `Owner: property`, or a formula; * and ? in an owner take all that match.", Type: "", Many: true, Must: true},
			{Name: "from", Does: "The first frame; 0, if absent.", Type: 0.0},
			{Name: "to", Does: "The last frame; the first, if absent.", Type: 0.0},
			{Name: "step", Does: "How far the next frame is off; 1, if absent.", Type: 0.0},
		}, Answer: ValuesAt{}, Refuses: []int{404, 422, 503}, handle: (*Server).values},
		{Method: "GET", Path: "/api/projects/:id/frame.svg", Group: Scripts, Does: "Draw a frame of a composition", Query: []Parameter{compositionNamed, {Name: "frame", Does: "The frame, a whole one; 0, if absent.", Type: 0}}, Sends: "image/svg+xml", Refuses: []int{404, 503}, handle: (*Server).frame},
		{Method: "GET", Path: "/api/projects/:id/events", Group: Scripts, Does: "Follow the changes of a project as server-sent events", More: "Each event is named change, has the revision as its id and a change as its data. A client that connects again says with Last-Event-ID which it had.", Query: []Parameter{sinceRevision}, Sends: "text/event-stream", Refuses: []int{404}, handle: (*Server).events},

		{Method: "POST", Path: "/api/projects", Group: Projects, Does: "Make a project", Body: NewProject{}, Answer: MadeProject{}, Status: 201, Refuses: []int{422}, handle: (*Server).create},
		{Method: "POST", Path: "/api/projects/import", Group: Projects, Does: "Make a project of a project file", Takes: packageType, Answer: MadeProject{}, Status: 201, Refuses: []int{413, 422}, handle: (*Server).importPackage},
		{Method: "POST", Path: "/api/projects/adopt", Group: Projects, Does: "Make a project of what a page has of one", Body: scene.Project{}, Answer: MadeProject{}, Status: 201, Refuses: []int{422}, handle: (*Server).adopt},
		{Method: "POST", Path: "/api/projects/example", Group: Projects, Does: "Make the project that comes with the application, or find it", Body: ExampleAsked{}, Answer: MadeProject{}, Makes: true, Refuses: []int{404}, handle: (*Server).openExample},
		{Method: "GET", Path: "/api/projects/:id", Group: Projects, Does: "Read a project", Answer: LoadedProject{}, Refuses: []int{404}, handle: (*Server).load},
		{Method: "PATCH", Path: "/api/projects/:id", Group: Projects, Does: "Rename a project", Body: NewProject{}, Answer: Revised{}, Refuses: []int{404, 422}, handle: (*Server).rename},
		{Method: "DELETE", Path: "/api/projects/:id", Group: Projects, Does: "Put a project into the bin", Refuses: []int{404}, handle: (*Server).remove},
		{Method: "POST", Path: "/api/projects/:id/restore", Group: Projects, Does: "Take a project out of the bin", Refuses: []int{404}, handle: (*Server).restore},
		{Method: "POST", Path: "/api/projects/:id/duplicate", Group: Projects, Does: "Copy a project", Answer: MadeProject{}, Status: 201, Refuses: []int{404}, handle: (*Server).duplicate},
		{Method: "GET", Path: "/api/projects/:id/opening", Group: Projects, Does: "What a page opens a project with", More: "The JSON of the project, and the first frame behind it, in the form that the core of the page reads.", Sends: "application/octet-stream", Refuses: []int{404}, handle: (*Server).opening},
		{Method: "GET", Path: "/api/projects/:id/thumbnail.svg", Group: Projects, Does: "The picture of a project", Sends: "image/svg+xml", Refuses: []int{404}, handle: (*Server).thumbnail},
		{Method: "GET", Path: "/api/catalogue", Group: Projects, Does: "All kinds, properties, functions and recipes", Answer: view.CatalogueView{}, handle: (*Server).catalogue},

		{Method: "GET", Path: "/api/projects/:id/changes", Group: ChangeLog, Does: "The changes behind a revision", Query: []Parameter{sinceRevision}, Answer: []ToldChange{}, Refuses: []int{404}, handle: (*Server).changes},
		{Method: "POST", Path: "/api/projects/:id/changes", Group: ChangeLog, Does: "Make a change", More: "409: others came first, and are in the answer; 412: a backup was restored.", Body: SentChange{}, Answer: Revised{}, Refuses: []int{404, 409, 412, 422}, handle: (*Server).apply},
		{Method: "POST", Path: "/api/projects/:id/changes/known", Group: ChangeLog, Does: "Which changes were made, with their revisions", Body: ChangeIDs{}, Answer: map[string]int{}, handle: (*Server).known},
		{Method: "POST", Path: "/api/projects/:id/changes/steps", Group: ChangeLog, Does: "Changes with what takes them back", Body: ChangeIDs{}, Answer: []session.PastStep{}, handle: (*Server).steps},
		{Method: "GET", Path: "/api/projects/:id/live", Group: ChangeLog, Does: "Follow the changes over a WebSocket", Query: []Parameter{sinceRevision, {Name: "history", Does: "The history that the revision belongs to.", Type: ""}}, Status: 101, Refuses: []int{404}, handle: (*Server).live},

		{Method: "GET", Path: "/api/projects/:id/package", Group: Files, Does: "A project, or a part of it, as a project file", Query: []Parameter{{Name: "part", Does: "composition, hand-off, recipe or set; all of it, if absent.", Type: ""}, {Name: "of", Does: "The id of that.", Type: ""}}, Sends: packageType, Refuses: []int{404}, handle: (*Server).exportPackage},
		{Method: "POST", Path: "/api/packages", Group: Files, Does: "Read a project file, and keep its pictures and sounds", Takes: packageType, Answer: BroughtProject{}, Refuses: []int{413, 422}, handle: (*Server).readPackage},
		{Method: "POST", Path: "/api/assets", Group: Files, Does: "Keep a picture, an animation or a sound", Takes: "application/octet-stream", Answer: KeptFiles{}, Status: 201, Refuses: []int{413, 422}, handle: (*Server).keep},
		{Method: "GET", Path: "/api/assets/:asset", Group: Files, Does: "A picture or a sound", Sends: "*/*", Refuses: []int{404}, handle: (*Server).asset},

		{Method: "GET", Path: "/api/projects/:id/exports", Group: ExportJobs, Does: "The exports that the server makes of a project", Answer: ServerExports{}, handle: (*Server).exportsOf},
		{Method: "POST", Path: "/api/projects/:id/exports", Group: ExportJobs, Does: "Have the server make an export", Body: NewExport{}, Answer: Export{}, Refuses: []int{404, 409, 422}, handle: (*Server).beginExport},
		{Method: "DELETE", Path: "/api/exports/:export", Group: ExportJobs, Does: "Cancel an export, or remove its file", Refuses: []int{404}, handle: (*Server).dropExport},
		{Method: "GET", Path: "/api/exports/:export/file", Group: ExportJobs, Does: "The file of an export", Sends: "*/*", Refuses: []int{404}, handle: (*Server).exportFile},

		{Method: "POST", Path: "/api/hand-offs/:address/enter", Group: HandOffs, Does: "Give the password of an address", More: "A cookie stands for it from then on.", Body: Entering{}, Refuses: []int{401, 404, 429}, handle: (*Server).enterHandOff},
		{Method: "GET", Path: "/api/projects/:id/hand-off/:composition/addresses", Group: HandOffs, Does: "The addresses of a composition", Answer: []store.Address{}, Refuses: []int{404}, handle: (*Server).addresses},
		{Method: "POST", Path: "/api/projects/:id/hand-off/:composition/addresses", Group: HandOffs, Does: "Make an address at which a composition is handed off", Body: NewAddress{}, Answer: store.Address{}, Status: 201, Refuses: []int{404, 422}, handle: (*Server).newAddress},
		{Method: "DELETE", Path: "/api/projects/:id/addresses/:address", Group: HandOffs, Does: "Withdraw an address", Refuses: []int{404}, handle: (*Server).withdraw},
	}, handedRoutes()...)
}

// Where a composition that was handed off is reached: by an address, and within the project by whoever hands it off.
const (
	byAddress = "/api/hand-offs/:address"
	asHanded  = "/api/projects/:id/hand-off/:composition"
)

// handedRoutes are the addresses of a composition that was handed off.
func handedRoutes() (out []Route) {
	for _, at := range []string{byAddress, asHanded} {
		for _, r := range []Route{
			{Method: "GET", Path: "/opening", Does: "What a page opens what was handed off with", Query: []Parameter{{Name: "reading", Does: "The id of the reading that comes first.", Type: ""}}, Sends: "application/octet-stream", Refuses: []int{404}, handle: (*Server).openHandOff},
			{Method: "GET", Path: "/changes", Does: "The readings’ changes behind a revision", Query: []Parameter{sinceRevision}, Answer: []ToldChange{}, Refuses: []int{404}, handle: (*Server).changes},
			{Method: "POST", Path: "/changes", Does: "Change a reading", Body: SentChange{}, Answer: Revised{}, Refuses: []int{404, 409, 412, 422}, handle: (*Server).apply},
			{Method: "POST", Path: "/changes/known", Does: "Which changes were made, with their revisions", Body: ChangeIDs{}, Answer: map[string]int{}, handle: (*Server).known},
			{Method: "POST", Path: "/changes/steps", Does: "Changes of readings with what takes them back", Body: ChangeIDs{}, Answer: []session.PastStep{}, handle: (*Server).steps},
			{Method: "GET", Path: "/live", Does: "Follow the changes of the readings over a WebSocket", Query: []Parameter{sinceRevision}, Status: 101, Refuses: []int{404}, handle: (*Server).live},
			{Method: "GET", Path: "/assets/:asset", Does: "A picture or a sound of what was handed off", Sends: "*/*", Refuses: []int{404}, handle: (*Server).handedAsset},
		} {
			if at == byAddress {
				r.Refuses = append(r.Refuses, 401, 429)
			} else {
				r.More = "As whoever has an address gets it; for the one who hands off."
			}
			r.Group, r.Path = HandOffs, at+r.Path
			out = append(out, r)
		}
	}
	return out
}

// route adds the addresses of the API to a router.
func (s *Server) route(r gin.IRouter) {
	for _, one := range Routes() {
		chain := []gin.HandlerFunc{func(g *gin.Context) { one.handle(s, g) }}
		switch {
		case one.Path == byAddress+"/enter":
		case strings.HasPrefix(one.Path, byAddress+"/"):
			chain = append([]gin.HandlerFunc{s.byAddress}, chain...)
		case strings.HasPrefix(one.Path, asHanded+"/"):
			chain = append([]gin.HandlerFunc{func(g *gin.Context) { g.Set(handedKey, g.Param("composition")) }}, chain...)
		}
		r.Handle(one.Method, one.Path, chain...)
	}
}
