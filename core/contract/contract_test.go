package contract

import (
	"os"
	"strings"
	"testing"

	"wunderkammer/core/link"
)

func TestThePageHasTheTypesOfTheCore(t *testing.T) {
	written, err := Write("../..")
	if err != nil {
		t.Fatal(err)
	}
	want := string(written)
	have, err := os.ReadFile("../../web/src/core/contract.ts")
	if err != nil {
		t.Fatal(err)
	}
	if string(have) != want {
		t.Error("web/src/core/contract.ts is not what the types of Go say: run make contract")
	}
	for _, k := range link.Kinds() { // each stands in a file of its own
		if _, kinds, _ := strings.Cut(want, "export type LinkKind = "); !strings.Contains(strings.SplitN(kinds, "\n", 2)[0], "'"+string(k.Key)+"'") {
			t.Errorf("%s is no kind of link on the page", k.Key)
		}
	}
	for _, part := range []string{
		"  /** of the target; empty for the whole property */\n  component?: string\n",
		"  | ({ op: 'link.remove' } & {\n    composition: Id\n    item: Id\n    property: string\n    link: Id\n  })\n",
		"  'letters': {\n    item: Id\n  }\n",
		"  'why': { argument: Ref; answer: Reason[] | null }\n",
		"    toggle?: boolean\n", "    /** in the composition; absent for its middle, or beside what stands there */\n    place?: [number, number, number] | null\n",
		"  state: State | null\n", "export type Beyond = '' | 'go on' | 'repeat' | 'mirror'\n",
	} {
		if !strings.Contains(want, part) {
			t.Errorf("missing: %s", part)
		}
	}
}

func TestWhatCannotBeWrittenIsAnError(t *testing.T) {
	if _, err := Write("no such folder"); err == nil {
		t.Error("without the sources there are no comments, and that is said")
	}
}
