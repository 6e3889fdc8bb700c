package formula

import (
	"testing"

	"wunderkammer/core/formula/binding"
)

// A formula in many scopes comes in each of them to what it comes to alone.
func TestAFormulaInManyScopes(t *testing.T) {
	c := cast()
	single := func(s *binding.Scope) *binding.Scope {
		s.Row, s.Index = nil, 0
		return s
	}
	for text, shared := range map[string]bool{
		`{"Rig: north {1}": wind} * 0.3 + time`: true, "own + 3": true, "index * 4 + 1": true, `zone({"Rig: north {1}"}) + 2`: false,
		`{self: opacity} + 0.7`: false, "{parent: Wind} * 2": false, "sum({parent > *: rotation})": false, `{"Rig: north {1}": wind`: false, "[1, 2, 3]": false,
	} {
		scopes := []*binding.Scope{
			single(within(c, "b1", "rotation")), single(within(c, "b2", "fill")), single(within(c, "b2", "opacity")), single(within(c, "t", "rotation")),
			within(c, "t", "opacity"), single(within(c, "b1", "rotation")), single(within(c, "b2", "cornerRadius")),
		}
		scopes[3].Target = scopes[0].Target
		all := CompileEach(text, scopes)
		for k, got := range all {
			want := Compile(text, scopes[k])
			switch {
			case got.Bound != want.Bound || len(got.Problems) != len(want.Problems) || got.Type.Of != want.Type.Of:
				t.Errorf("%s, scope %d: %+v, alone %+v", text, k, got, want)
			case (got.Program == nil) != (want.Program == nil), got.Program != nil && got.Program.Shape != want.Program.Shape:
				t.Errorf("%s, scope %d: another program than alone", text, k)
			}
		}
		if (all[0] == all[5]) != shared {
			t.Errorf("%s: whether the scopes share it: %v", text, !shared)
		}
	}
}
