package graph

import (
	"testing"

	"wunderkammer/core/scene"
)

// Every kind of slips has all that is particular to it in the table, and what gives something can be worked out.
func TestEveryKindOfSlipsIsInTheTable(t *testing.T) {
	for _, kind := range scene.SlipKinds {
		k := kinds[kind]
		switch {
		case k == nil:
			t.Errorf("%s is not in the table", kind)
		case kind != scene.WordsSlip && !k.mute && (k.whole == nil) == (k.made == nil):
			t.Errorf("%s gives something, and is worked out in two ways or none", kind)
		case k.arity != nil && k.ports == nil:
			t.Errorf("%s has inputs that nothing lists", kind)
		}
	}
}
