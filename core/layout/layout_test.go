package layout

import (
	"testing"

	"wunderkammer/core/scene"
)

func item(id scene.ID, kind scene.Kind, parent scene.ID) *scene.Item {
	return &scene.Item{ID: id, Name: string(id), Kind: kind, Parent: parent}
}

// set is a composition with controls, attachments, a vertex that was set, one that is asked for, and a
// weight.
func set() *scene.Composition {
	c := scene.NewComposition("main", "C")
	rig := item("rig", scene.Null, "")
	rig.Controls = []*scene.Control{{ID: "turn", Name: "Turn", Kind: scene.DialWidget, Default: scene.Num(0)}, {ID: "spot", Name: "Spot", Kind: scene.PointWidget, Default: scene.Pt(0, 0)}}
	box, line := item("box", scene.Box, "rig"), item("line", scene.PathItem, "rig")
	line.Path = &scene.PathShape{Contours: []scene.Contour{{Vertices: []scene.Vertex{{ID: 1}, {ID: 2}, {ID: 9}}}}}
	line.Edit("vertex9").Own = scene.Pt(3, 4)
	line.Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Follow, Source: scene.Ref{Item: "box", Property: "vertex3", Component: "x"}, Gain: 1}}
	line.Edit(scene.WeightKey("l")).Own = scene.Num(50)
	c.Items = []*scene.Item{box, rig, line}
	return c
}

// No two components share a slot, and none is left between.
func TestEveryComponentHasASlotOfItsOwn(t *testing.T) {
	l := Of(set())
	taken := make([]bool, l.Size)
	take := func(from, n int32) {
		for s := from; s < from+n; s++ {
			if taken[s] {
				t.Fatalf("slot %d is given twice", s)
			}
			taken[s] = true
		}
	}
	for i := range l.Items {
		for n, spec := range l.Specs(int32(i)) {
			first := l.Slot(int32(i), n)
			take(first, int32(spec.Type.Size()))
			if found, at := l.Find(l.Items[i].ID, spec.Key); found != spec || at != first {
				t.Errorf("%s of %s is found at %d", spec.Key, l.Items[i].Name, at)
			}
			for c := range int32(spec.Type.Size()) {
				if item, property, component := l.At(first + c); item != int32(i) || property != n || component != c {
					t.Errorf("slot %d is said to be component %d of property %d of item %d", first+c, component, property, item)
				}
			}
		}
		take(l.WorldOf(int32(i)), WorldSize)
	}
	if item, _, _ := l.At(l.World); item >= 0 {
		t.Error("a world transform is said to be a property")
	}
	for s, used := range taken {
		if !used {
			t.Fatalf("slot %d is nobody's", s)
		}
	}
}

// What a roster drives is a run of the column: no two members of one kind have anything between them.
func TestAPropertyOfAllItemsOfAKindLiesSideBySide(t *testing.T) {
	c := set()
	c.Items = append(c.Items, item("second", scene.Box, ""), item("last", scene.Null, ""), item("third", scene.Box, "last"))
	c.Item("third").Edit("colour").Own = scene.RGBA(0.3, 0.7, 0.1, 1)
	l := Of(c, scene.Ref{Item: "box", Property: "bend"})
	for _, key := range []string{"rotation", "position", "colour", "bend"} {
		spec, first := l.Find("box", key)
		_, second := l.Find("second", key)
		_, third := l.Find("third", key)
		if size := int32(spec.Type.Size()); second != first+size || third != second+size {
			t.Errorf("%s of the boxes is at %d, %d and %d", key, first, second, third)
		}
		if !l.Holds(l.Index("second"), key) {
			t.Errorf("%s has no slots of its own", key)
		}
	}
}

// What nothing is set of and nothing drives of any item of a kind stands once for all of them.
func TestWhatNobodyTouchesStandsOnce(t *testing.T) {
	c := set()
	c.Items = append(c.Items, item("second", scene.Box, ""))
	row := &scene.RosterLink{ID: "row", Name: "Row", Roster: scene.Roster{Kind: scene.Picked, Items: []scene.ID{"second"}}, Property: "bend", Link: &scene.Link{ID: "r", Kind: scene.Formula, Gain: 1, Formula: "3.7"}}
	c.RosterLinks = append(c.RosterLinks, row)
	l := Of(c)
	_, first := l.Find("box", "colour")
	if _, second := l.Find("second", "colour"); second != first {
		t.Errorf("colour of the boxes is at %d and %d", first, second)
	}
	if i, _, _ := l.At(first + 1); i >= 0 || l.Holds(l.Index("second"), "colour") {
		t.Errorf("it is said to be %s's", l.Items[max(0, i)].ID)
	}
	if !l.Holds(l.Index("box"), "bend") {
		t.Error("what a row drives of another has no slots of its own")
	}
	if !l.CoversRoster(row) || !l.Covers(l.Index("box"), "bend") || l.Covers(l.Index("box"), "colour") {
		t.Error("what has no slots is said to be covered, or the other way round")
	}
	row.Property = "colour"
	if c.Changed(); l.CoversRoster(row) {
		t.Error("a row that drives what has no slots is said to be covered")
	}
}

func TestOnlyWhatIsAskedForHasAPlace(t *testing.T) {
	l := Of(set())
	for key, want := range map[scene.Ref]bool{
		{Item: "line", Property: "vertex9"}: true, {Item: "line", Property: "vertex2"}: false, {Item: "box", Property: "vertex3"}: true, {Item: "box", Property: "vertex4"}: false,
		{Item: "line", Property: "weight:l"}: true, {Item: "line", Property: "length"}: false, {Item: "rig", Property: "spot"}: true, {Item: "box", Property: "worldPosition"}: false,
		{Item: "gone", Property: "position"}: false,
	} {
		if spec, _ := l.Find(key.Item, key.Property); (spec != nil) != want {
			t.Errorf("%s of %s has a place: %v", key.Property, key.Item, spec != nil)
		}
	}
}

func TestParentsStandFirstAndHidingGoesDown(t *testing.T) {
	c := set()
	c.Item("rig").Hidden, c.Item("box").NotInOutput = true, true
	l := Of(c)
	for i, parent := range l.Parents {
		if parent >= int32(i) {
			t.Errorf("%s stands before its parent", l.Items[i].Name)
		}
	}
	for id, want := range map[scene.ID][2]bool{"rig": {true, false}, "box": {true, true}, "line": {true, false}} {
		if i := l.Index(id); l.Hidden[i] != want[0] || l.Out[i] != want[1] {
			t.Errorf("%s: hidden %v, out %v", id, l.Hidden[i], l.Out[i])
		}
	}
	if places := l.Places(); places[l.Index("box")][0] == places[l.Index("rig")][0] {
		t.Error("two items have one place")
	}
}

func TestLinkedListsPropertiesInOrder(t *testing.T) {
	c := set()
	line := c.Item("line")
	line.Edit("opacity").Links = line.State("rotation").Links
	l := Of(c)
	linked := l.Linked(l.Index("line"))
	if len(linked) != 2 || linked[0] >= linked[1] {
		t.Errorf("linked are %v", linked)
	}
	if l.Linked(l.Index("rig")) != nil {
		t.Error("something without links has some")
	}
}

func TestLimitsOfTheDesignersOwnAreInTheSpecs(t *testing.T) {
	c := set()
	lo, hi := 20.0, 30.0
	s := c.Item("box").Edit("opacity")
	s.Min, s.Max = &lo, &hi
	l := Of(c)
	if spec, _ := l.Find("box", "opacity"); spec.Min != 20 || spec.Max != 30 {
		t.Errorf("the limits are %g and %g", spec.Min, spec.Max)
	}
	if spec, _ := l.Find("line", "opacity"); spec.Max != 100 {
		t.Errorf("the limits of another item are %g and %g", spec.Min, spec.Max)
	}
}

// A layout says whether a link that is added finds all that it asks for: what has no slot yet, first or last among what it reads, the
// weight of a link that was not there; what is gone asks for nothing.
func TestALayoutKnowsWhatItCovers(t *testing.T) {
	c := set()
	reads := c.Item("line").Edit("opacity")
	reads.Links = []*scene.Link{{ID: "asks", Kind: scene.Formula, Gain: 1, Formula: "{@box:@weight:later}"}}
	l := Of(c)
	line, box := l.Index("line"), l.Index("box")
	for text, want := range map[string]bool{
		"{@rig:@turn} + {@box:@vertex3}.x": true, "{@box:@vertex5}.x": false, "{@box:@vertex5}.x + {@rig:@turn}": false, "{@rig:@turn} + {@box:@vertex5}.x": false,
		"{@gone:@vertex5}.x": true, "{@gone:@rotation} + {@rig:@turn}": true,
	} {
		c.Item("line").Edit("rotation").Links = []*scene.Link{{ID: "l", Kind: scene.Formula, Gain: 1, Formula: text}}
		if got := l.Covers(line, "rotation"); got != want {
			t.Errorf("%s is covered: %v", text, got)
		}
	}
	c.Item("box").Edit("rotation").Links = []*scene.Link{{ID: "other", Kind: scene.Formula, Gain: 1, Formula: "3"}}
	if !l.Covers(box, "rotation") {
		t.Error("a link that nobody asked about is not covered")
	}
	c.Item("box").Edit("rotation").Links[0].ID = "later"
	if l.Covers(box, "rotation") {
		t.Error("a link whose weight was asked for is covered")
	}
}
