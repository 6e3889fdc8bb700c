package history

import "math/bits"

// pool is long runs of numbers that are not in use, to be used again, by the power of two that their room is.
type pool struct {
	free    [32][][]float64
	numbers int // that they have room for
}

const (
	pooledFrom = 256     // numbers that a run has at least
	pooled     = 1 << 19 // numbers that are kept
)

// give takes a run that nobody uses any more.
func (p *pool) give(run []float64) {
	n := cap(run)
	if n < pooledFrom || n&(n-1) != 0 || n > pooled {
		return
	}
	class := bits.TrailingZeros(uint(n))
	if p.numbers+n > pooled { // those of other lengths are less likely to be wanted
		same := p.free[class]
		*p = pool{}
		p.free[class], p.numbers = same, n*len(same)
		if p.numbers+n > pooled {
			return
		}
	}
	p.free[class] = append(p.free[class], run[:0])
	p.numbers += n
}

// grow makes room for so many numbers more behind those of a run.
func (p *pool) grow(run []float64, more int) []float64 {
	need := len(run) + more
	if need <= cap(run) {
		return run
	}
	class := bits.Len(uint(need - 1))
	var grown []float64
	if n := len(p.free[class]); n > 0 {
		grown, p.free[class] = p.free[class][n-1], p.free[class][:n-1]
		p.numbers -= cap(grown)
	} else {
		grown = make([]float64, 0, 1<<class)
	}
	grown = append(grown, run...)
	p.give(run)
	return grown
}

// shrink returns the first numbers of a run, and takes what they leave free.
func (p *pool) shrink(run []float64, n int) []float64 {
	if cap(run) < pooledFrom || 2*n > cap(run) {
		return run[:n]
	}
	short := append(make([]float64, 0, n), run[:n]...)
	p.give(run)
	return short
}
