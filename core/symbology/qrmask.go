package symbology

import "math/bits"

// qrBestMask returns the mask that disturbs a reader least. Symbols of up to 64 modules, which most
// are, are masked and counted a row at a time.
func qrBestMask(m *Matrix, frame *qrFrame, level int) int {
	size := m.Width
	var small *qrSmall
	var sides *qrSides
	if size <= 64 {
		small = newQRSmall(m, frame)
	} else {
		sides = &qrSides{}
	}
	best, least := 0, -1
	for mask := range 8 {
		penalty := 0
		if small != nil {
			small.mask(mask, level)
			penalty = small.penalty()
		} else {
			qrMask(m, frame.fixed, mask)
			qrFormatAt(size, level, mask, m.set)
			penalty = qrPenalty(m, sides)
			qrMask(m, frame.fixed, mask)
		}
		if least < 0 || penalty < least {
			best, least = mask, penalty
		}
	}
	return best
}

// qrHit tells whether a mask turns a module over (table 10).
func qrHit(mask, x, y int) bool {
	switch mask {
	case 0:
		return (x+y)%2 == 0
	case 1:
		return y%2 == 0
	case 2:
		return x%3 == 0
	case 3:
		return (x+y)%3 == 0
	case 4:
		return (x/3+y/2)%2 == 0
	case 5:
		return x*y%2+x*y%3 == 0
	case 6:
		return (x*y%2+x*y%3)%2 == 0
	}
	return ((x+y)%2+x*y%3)%2 == 0
}

// qrMask turns the modules of data over where a mask says so (table 10).
func qrMask(m *Matrix, fixed []bool, mask int) {
	for y := range m.Height {
		row, taken, pattern := m.Dark[y*m.Width:][:m.Width], fixed[y*m.Width:][:m.Width], qrRowMasks[mask][y%12]
		for x := range row {
			// Every mask repeats itself after twelve modules. There is no branch, since what is dark cannot be guessed.
			row[x] = row[x] != (pattern>>(x%12)&1 == 1 && !taken[x])
		}
	}
}

// A qrRow is a row or a column of up to 177 modules, one a bit.
type qrRow [3]uint64

// down returns the row n modules nearer to its beginning.
func (r qrRow) down(n int) qrRow {
	return qrRow{r[0]>>n | r[1]<<(64-n), r[1]>>n | r[2]<<(64-n), r[2] >> n}
}

func (r qrRow) and(o qrRow) qrRow { return qrRow{r[0] & o[0], r[1] & o[1], r[2] & o[2]} }

// same returns where two rows have the same module.
func (r qrRow) same(o qrRow) qrRow {
	return qrRow{^(r[0] ^ o[0]), ^(r[1] ^ o[1]), ^(r[2] ^ o[2])}
}

func (r qrRow) count() int {
	return bits.OnesCount64(r[0]) + bits.OnesCount64(r[1]) + bits.OnesCount64(r[2])
}

// first returns a row of n modules set.
func first(n int) (r qrRow) {
	for i := range r {
		if have := min(max(n-64*i, 0), 64); have > 0 {
			r[i] = ^uint64(0) >> (64 - have)
		}
	}
	return r
}

// qrSides are the rows and the columns of a symbol, kept between masks.
type qrSides struct{ rows, columns [177]qrRow }

func (q *qrSides) fill(m *Matrix) {
	size := m.Width
	clear(q.rows[:size])
	clear(q.columns[:size])
	for y := range size {
		row := &q.rows[y]
		for x, dark := range m.Dark[y*size : (y+1)*size] {
			if dark {
				row[x>>6] |= 1 << (x & 63)
				q.columns[x][y>>6] |= 1 << (y & 63)
			}
		}
	}
}

// qrPenalty counts what disturbs a reader (7.8.3.1): runs, blocks, finders where there are none, and
// too much of one colour.
func qrPenalty(m *Matrix, q *qrSides) int {
	q.fill(m)
	size, penalty, dark := m.Width, 0, 0
	for y := range size {
		penalty += qrRuns(q.rows[y], size) + qrRuns(q.columns[y], size)
		dark += q.rows[y].count()
		if y+1 < size { // blocks of two by two
			row, below := q.rows[y], q.rows[y+1]
			block := row.same(row.down(1)).and(below.same(below.down(1))).and(row.same(below))
			penalty += 3 * block.and(first(size-1)).count()
		}
	}
	off := dark*20 - size*size*10
	return penalty + max(off, -off)/(size*size)*10
}

// qrFinderRun is what looks like a finder with four light modules before or after it, its first module
// lowest.
const qrFinderRun = 0b1011101

// qrRuns counts runs of five and more, and what looks like a finder, in a row or a column.
func qrRuns(row qrRow, size int) int {
	pairs := row.same(row.down(1)).and(first(size - 1))
	two := pairs.and(pairs.down(1))
	five := two.and(two.down(2)) // each begins five alike
	begins := qrRow{five[0] &^ (five[0] << 1), five[1] &^ (five[1]<<1 | five[0]>>63),
		five[2] &^ (five[2]<<1 | five[1]>>63)}
	penalty := five.count() + 2*begins.count()
	after, before := first(size-10), first(size-10)
	for i := range 11 {
		shifted := row.down(i)
		light := qrRow{^shifted[0], ^shifted[1], ^shifted[2]}
		if i < 7 && qrFinderRun>>i&1 == 1 {
			after = after.and(shifted)
		} else {
			after = after.and(light)
		}
		if i >= 4 && qrFinderRun>>(i-4)&1 == 1 {
			before = before.and(shifted)
		} else {
			before = before.and(light)
		}
	}
	return penalty + 40*(after.count()+before.count())
}

// A qrSmall is a symbol of up to 64 modules: a row, and a column, is a word.
type qrSmall struct {
	size                  int
	rows, columns         [64]uint64 // masked
	bareRows, bareColumns [64]uint64
	frame                 *qrFrame
}

// qrRowMasks and qrColumnMasks are the masks as rows and as columns, which repeat themselves.
var qrRowMasks, qrColumnMasks [8][12]uint64

func init() {
	for mask := range 8 {
		for i := range 12 {
			for j := range 64 {
				if qrHit(mask, j, i) {
					qrRowMasks[mask][i] |= 1 << j
				}
				if qrHit(mask, i, j) {
					qrColumnMasks[mask][i] |= 1 << j
				}
			}
		}
	}
}

func newQRSmall(m *Matrix, frame *qrFrame) *qrSmall {
	q := &qrSmall{size: m.Width, frame: frame}
	bit := func(set bool) uint64 { // no branch: what is dark cannot be guessed
		var n uint64
		if set {
			n = 1
		}
		return n
	}
	for y := range q.size {
		row, columns, line := m.Dark[y*q.size:][:q.size], q.bareColumns[:q.size], uint64(0)
		for x := range row {
			dark := bit(row[x])
			line |= dark << (x & 63)
			columns[x] |= dark << (y & 63)
		}
		q.bareRows[y] = line
	}
	return q
}

// mask masks the symbol and writes its format information.
func (q *qrSmall) mask(mask, level int) {
	for i := range q.size {
		q.rows[i] = q.bareRows[i] ^ qrRowMasks[mask][i%12]&q.frame.freeRows[i]
		q.columns[i] = q.bareColumns[i] ^ qrColumnMasks[mask][i%12]&q.frame.freeColumns[i]
	}
	qrFormatAt(q.size, level, mask, func(x, y int, dark bool) {
		q.rows[y], q.columns[x] = q.rows[y]&^(1<<x), q.columns[x]&^(1<<y)
		if dark {
			q.rows[y], q.columns[x] = q.rows[y]|1<<x, q.columns[x]|1<<y
		}
	})
}

// penalty counts as qrPenalty does.
func (q *qrSmall) penalty() int {
	penalty, dark, inner := 0, 0, uint64(1)<<(q.size-1)-1
	for y := range q.size {
		row := q.rows[y]
		penalty += qrSmallRuns(row, q.size) + qrSmallRuns(q.columns[y], q.size)
		dark += bits.OnesCount64(row)
		if y+1 < q.size {
			below := q.rows[y+1]
			block := ^(row ^ row>>1) & ^(below ^ below>>1) & ^(row ^ below) & inner
			penalty += 3 * bits.OnesCount64(block)
		}
	}
	off := dark*20 - q.size*q.size*10
	return penalty + max(off, -off)/(q.size*q.size)*10
}

// qrSmallRuns counts as qrRuns does.
func qrSmallRuns(row uint64, size int) int {
	two := ^(row ^ row>>1) & (uint64(1)<<(size-1) - 1)
	two &= two >> 1
	five := two & (two >> 2)
	penalty := bits.OnesCount64(five) + 2*bits.OnesCount64(five&^(five<<1))
	finder := row & ^(row >> 1) & (row >> 2) & (row >> 3) & (row >> 4) & ^(row >> 5) & (row >> 6)
	light := ^(row | row>>1 | row>>2 | row>>3) // four light modules begin here
	within := uint64(1)<<(size-10) - 1
	after, before := finder&(light>>7)&within, light&(finder>>4)&within
	return penalty + 40*(bits.OnesCount64(after)+bits.OnesCount64(before))
}
