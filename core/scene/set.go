package scene

import "fmt"

// ControlSet is controls that are kept by a name, to be put onto other items: what they are (kinds, names, ranges, units, defaults, notes,
// stops of poses), and nothing of what they drive or were set to.
type ControlSet struct {
	ID       ID         `json:"id"`
	Name     string     `json:"name"`
	Controls []*Control `json:"controls" ts:"list"`
}

// MaxSets bounds the sets of controls of a project.
const MaxSets = 500

// Set returns a set of controls of the project, and where it stands; nil where there is none of that id.
func (p *Project) Set(id ID) (*ControlSet, int) {
	for k, s := range p.Sets {
		if s.ID == id {
			return s, k
		}
	}
	return nil, -1
}

// Clone returns a copy that shares nothing that can be changed.
func (s *ControlSet) Clone() *ControlSet {
	out := &ControlSet{ID: s.ID, Name: s.Name}
	for _, c := range s.Controls {
		out.Controls = append(out.Controls, c.Clone())
	}
	return out
}

// Check refuses a set that could not be put onto an item.
func (s *ControlSet) Check() error {
	if s == nil {
		return fmt.Errorf("a set of controls is empty")
	}
	if err := CheckID(s.ID); err != nil {
		return err
	}
	if err := CheckName(s.Name); err != nil {
		return err
	}
	if len(s.Controls) == 0 || len(s.Controls) > MaxControls {
		return fmt.Errorf("%s has %d controls; a set has 1 to %d", s.Name, len(s.Controls), MaxControls)
	}
	seen := map[ID]bool{}
	for _, c := range s.Controls {
		if err := c.Check(); err != nil {
			return fmt.Errorf("%s: %w", s.Name, err)
		}
		if seen[c.ID] {
			return fmt.Errorf("%s: the id %s occurs twice", s.Name, c.ID)
		}
		seen[c.ID] = true
	}
	return nil
}

func (p *Project) checkSets() error {
	if len(p.Sets) > MaxSets {
		return fmt.Errorf("the project would have %d sets of controls; at most %d are kept", len(p.Sets), MaxSets)
	}
	seen := map[ID]bool{}
	for _, s := range p.Sets {
		if err := s.Check(); err != nil {
			return err
		}
		if seen[s.ID] {
			return Taken(s.ID)
		}
		seen[s.ID] = true
	}
	return nil
}
