package reel

import "math"

// Led is a part that goes along with another: it stands in its space where At says, at every frame.
type Led struct {
	By int // which part; -1 for none
	At Matrix
}

// mostLeaders bounds how many parts are tried as the leader of another, the nearest first.
const mostLeaders = 48

// Leaders finds for each part of a reel another that it goes along with, so that what moves a whole rig stands once. Nothing is
// off by more than the tolerance.
func (r *Reel) Leaders(tolerance float64) []Led {
	out := make([]Led, len(r.Parts))
	all := make([][]*Look, len(r.Parts))
	var leaders []int
	for i, p := range r.Parts {
		out[i].By = -1
		all[i] = p.filled()
		reach := p.reach()
		for n := len(leaders) - 1; n >= max(0, len(leaders)-mostLeaders); n-- {
			if at, ok := along(all[leaders[n]], all[i], reach, tolerance); ok {
				out[i] = Led{leaders[n], at}
				break
			}
		}
		if out[i].By < 0 && moves(all[i]) {
			leaders = append(leaders, i)
		}
	}
	return out
}

func moves(looks []*Look) bool {
	for _, look := range looks {
		if look.Place != looks[0].Place {
			return true
		}
	}
	return false
}

// along returns where looks stand in the space of others, if that is the same at every frame.
func along(leader, looks []*Look, reach, tolerance float64) (at Matrix, ok bool) {
	var was [2]*Look
	for k, look := range looks {
		if k > 0 && leader[k].Place == was[0].Place && look.Place == was[1].Place {
			continue
		}
		was = [2]*Look{leader[k], look}
		back, ok := leader[k].Place.inverse()
		if !ok {
			return at, false
		}
		now := back.times(&look.Place)
		if k == 0 {
			at = now
			continue
		}
		size := leader[k].Place.size()
		turned := max(math.Abs(now[0]-at[0]), math.Abs(now[1]-at[1]), math.Abs(now[2]-at[2]), math.Abs(now[3]-at[3]))
		moved := max(math.Abs(now[4]-at[4]), math.Abs(now[5]-at[5]))
		if (float64(turned*reach)+moved)*size > tolerance {
			return at, false
		}
	}
	return at, true
}

// times puts a transform behind another that is done first.
func (m *Matrix) times(n *Matrix) Matrix {
	row := func(k, column int) float64 { return float64(m[k]*n[column]) + float64(m[k+2]*n[column+1]) }
	return Matrix{row(0, 0), row(1, 0), row(0, 2), row(1, 2), row(0, 4) + m[4], row(1, 4) + m[5]}
}

// inverse leads back; there is none of what is flat.
func (m *Matrix) inverse() (Matrix, bool) {
	det := float64(m[0]*m[3]) - float64(m[1]*m[2])
	if math.Abs(det) < 1e-6 {
		return Matrix{}, false
	}
	a, b, c, d := m[3]/det, -m[1]/det, -m[2]/det, m[0]/det
	return Matrix{a, b, c, d, -(float64(a*m[4]) + float64(c*m[5])), -(float64(b*m[4]) + float64(d*m[5]))}, true
}
