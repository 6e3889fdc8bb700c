// Package catalogue names all gestures, as interfaces and the random tests know them.
package catalogue

import (
	"fmt"
	"iter"
	"maps"
	"slices"

	"wunderkammer/core/gesture"
	"wunderkammer/core/gesture/copies"
	"wunderkammer/core/gesture/graphs"
	"wunderkammer/core/gesture/handoffs"
	"wunderkammer/core/gesture/items"
	"wunderkammer/core/gesture/looks"
	"wunderkammer/core/gesture/pins"
	"wunderkammer/core/gesture/poses"
	"wunderkammer/core/gesture/recipes"
	"wunderkammer/core/gesture/wiring"
	"wunderkammer/core/scene"
)

// names is the table of all gestures.
var names = map[string]func() gesture.Gesture{
	"add":             func() gesture.Gesture { return &items.Add{} },
	"replace table":   func() gesture.Gesture { return &items.ReplaceTable{} },
	"add control":     func() gesture.Gesture { return &wiring.AddControl{} },
	"set":             func() gesture.Gesture { return &pins.Set{} },
	"bend path":       func() gesture.Gesture { return &pins.BendPath{} },
	"shape path":      func() gesture.Gesture { return &pins.ShapePath{} },
	"pin":             func() gesture.Gesture { return &pins.Pin{} },
	"move pins":       func() gesture.Gesture { return &pins.MovePins{} },
	"stretch pins":    func() gesture.Gesture { return &pins.StretchPins{} },
	"reverse pins":    func() gesture.Gesture { return &pins.ReversePins{} },
	"even speed":      func() gesture.Gesture { return &pins.EvenSpeed{} },
	"spread pins":     func() gesture.Gesture { return &pins.SpreadPins{} },
	"stagger pins":    func() gesture.Gesture { return &pins.StaggerPins{} },
	"paste pins":      func() gesture.Gesture { return &pins.PastePins{} },
	"add marker":      func() gesture.Gesture { return &pins.AddMarker{} },
	"keep before":     func() gesture.Gesture { return &pins.KeepBefore{} },
	"go back":         func() gesture.Gesture { return &pins.GoBack{} },
	"insert time":     func() gesture.Gesture { return &pins.InsertTime{} },
	"show":            func() gesture.Gesture { return &pins.Show{} },
	"perform":         func() gesture.Gesture { return &pins.Perform{} },
	"smooth pins":     func() gesture.Gesture { return &pins.SmoothPins{} },
	"set each":        func() gesture.Gesture { return &pins.SetEach{} },
	"set pins":        func() gesture.Gesture { return &pins.SetPins{} },
	"ease pins":       func() gesture.Gesture { return &pins.EasePins{} },
	"drop pins":       func() gesture.Gesture { return &pins.DropPins{} },
	"link":            func() gesture.Gesture { return &wiring.Link{} },
	"single links":    func() gesture.Gesture { return &wiring.SingleLinks{} },
	"one link":        func() gesture.Gesture { return &wiring.OneLink{} },
	"mark":            func() gesture.Gesture { return &poses.Mark{} },
	"use pose":        func() gesture.Gesture { return &poses.UsePose{} },
	"gather":          func() gesture.Gesture { return &wiring.Gather{} },
	"formula":         func() gesture.Gesture { return &wiring.Formula{} },
	"bake":            func() gesture.Gesture { return &pins.Bake{} },
	"give poses":      func() gesture.Gesture { return &poses.GivePoses{} },
	"add stop":        func() gesture.Gesture { return &poses.AddStop{} },
	"set stop":        func() gesture.Gesture { return &poses.SetStop{} },
	"remove stop":     func() gesture.Gesture { return &poses.RemoveStop{} },
	"hold at stop":    func() gesture.Gesture { return &poses.HoldAt{} },
	"turn poses":      func() gesture.Gesture { return &poses.TurnPoses{} },
	"set options":     func() gesture.Gesture { return &poses.SetOptions{} },
	"cut frames":      func() gesture.Gesture { return &items.CutFrames{} },
	"pose stop":       func() gesture.Gesture { return &poses.PoseStop{} },
	"save recipe":     func() gesture.Gesture { return &recipes.SaveRecipe{} },
	"recipe":          func() gesture.Gesture { return &recipes.MakeRecipe{} },
	"undo bake":       func() gesture.Gesture { return &pins.UndoBake{} },
	"spread":          func() gesture.Gesture { return &wiring.Spread{} },
	"find members":    func() gesture.Gesture { return &wiring.FindMembers{} },
	"spread formula":  func() gesture.Gesture { return &wiring.RosterFormula{} },
	"copy control":    func() gesture.Gesture { return &wiring.CopyControl{} },
	"turn round":      func() gesture.Gesture { return &wiring.TurnRound{} },
	"paste link":      func() gesture.Gesture { return &wiring.PasteLink{} },
	"to map":          func() gesture.Gesture { return &wiring.ToMap{} },
	"fit ranges":      func() gesture.Gesture { return &wiring.FitRanges{} },
	"attach":          func() gesture.Gesture { return &items.Attach{} },
	"inherit":         func() gesture.Gesture { return &items.Inherit{} },
	"break up":        func() gesture.Gesture { return &copies.BreakUp{} },
	"group":           func() gesture.Gesture { return &copies.Group{} },
	"retime":          func() gesture.Gesture { return &copies.Retime{} },
	"letters":         func() gesture.Gesture { return &copies.Letters{} },
	"more":            func() gesture.Gesture { return &copies.More{} },
	"duplicate":       func() gesture.Gesture { return &copies.Duplicate{} },
	"paste":           func() gesture.Gesture { return &copies.Paste{} },
	"move":            func() gesture.Gesture { return &items.Move{} },
	"turn":            func() gesture.Gesture { return &items.Turn{} },
	"grow":            func() gesture.Gesture { return &items.Grow{} },
	"pivot":           func() gesture.Gesture { return &items.Pivot{} },
	"move vertex":     func() gesture.Gesture { return &items.MoveVertex{} },
	"reshape":         func() gesture.Gesture { return &items.Reshape{} },
	"order":           func() gesture.Gesture { return &items.Order{} },
	"bring svg":       func() gesture.Gesture { return &items.BringSVG{} },
	"bring lottie":    func() gesture.Gesture { return &items.BringLottie{} },
	"bring model":     func() gesture.Gesture { return &items.BringModel{} },
	"remove":          func() gesture.Gesture { return &items.Remove{} },
	"move control":    func() gesture.Gesture { return &wiring.MoveControl{} },
	"set depth":       func() gesture.Gesture { return &wiring.SetDepth{} },
	"remove controls": func() gesture.Gesture { return &items.RemoveControls{} },
	"new graph":       func() gesture.Gesture { return &graphs.NewGraph{} },
	"open as graph":   func() gesture.Gesture { return &graphs.OpenAsGraph{} },
	"as formula":      func() gesture.Gesture { return &graphs.WriteAsFormula{} },
	"put slips":       func() gesture.Gesture { return &graphs.PutSlips{} },
	"take slips":      func() gesture.Gesture { return &graphs.TakeSlips{} },
	"drive":           func() gesture.Gesture { return &graphs.Drive{} },
	"pull slips":      func() gesture.Gesture { return &graphs.PullSlips{} },
	"arrange slips":   func() gesture.Gesture { return &graphs.ArrangeSlips{} },
	"align slips":     func() gesture.Gesture { return &graphs.AlignSlips{} },
	"fold slips":      func() gesture.Gesture { return &graphs.FoldSlips{} },
	"unfold":          func() gesture.Gesture { return &graphs.Unfold{} },
	"mark slip":       func() gesture.Gesture { return &poses.MarkSlip{} },
	"fill input":      func() gesture.Gesture { return &graphs.FillInput{} },
	"mend wire":       func() gesture.Gesture { return &graphs.MendWire{} },
	"value control":   func() gesture.Gesture { return &graphs.ValueControl{} },
	"remove graph":    func() gesture.Gesture { return &graphs.RemoveGraph{} },
	"hand off":        func() gesture.Gesture { return &handoffs.HandOff{} },
	"set offer":       func() gesture.Gesture { return &handoffs.SetOffer{} },
	"withdraw":        func() gesture.Gesture { return &handoffs.Withdraw{} },
	"hand-off note":   func() gesture.Gesture { return &handoffs.Note{} },
	"reset":           func() gesture.Gesture { return &handoffs.Reset{} },
	"forget":          func() gesture.Gesture { return &handoffs.Forget{} },
	"show another":    func() gesture.Gesture { return &handoffs.ShowAnother{} },
	"apply reading":   func() gesture.Gesture { return &handoffs.ApplyReading{} },
	"keep set":        func() gesture.Gesture { return &handoffs.KeepSet{} },
	"bring project":   func() gesture.Gesture { return &handoffs.BringProject{} },
	"put set":         func() gesture.Gesture { return &handoffs.PutSet{} },
	"keep look":       func() gesture.Gesture { return &looks.KeepLook{} },
	"name look":       func() gesture.Gesture { return &looks.NameLook{} },
	"apply look":      func() gesture.Gesture { return &looks.ApplyLook{} },
	"step look":       func() gesture.Gesture { return &looks.StepLook{} },
	"mix looks":       func() gesture.Gesture { return &looks.MixLooks{} },
	"operations":      func() gesture.Gesture { return &gesture.Operations{} },
}

// All gives an empty gesture of every name, in the order of the names.
func All() iter.Seq2[string, gesture.Gesture] {
	return func(yield func(string, gesture.Gesture) bool) {
		for _, name := range slices.Sorted(maps.Keys(names)) {
			if !yield(name, names[name]()) {
				return
			}
		}
	}
}

// Decode reads the gesture of the given name.
func Decode(name string, data []byte) (gesture.Gesture, error) {
	make, ok := names[name]
	if !ok {
		return nil, fmt.Errorf("there is no gesture named %q", name)
	}
	g := make()
	if err := scene.ReadExactly(data, g); err != nil {
		return nil, fmt.Errorf("%s: %w", name, err)
	}
	return g, nil
}
