package batch

// A Stretch is labels of a run that come off one roll, or one stack of sheets.
type Stretch struct {
	Roll        int // index of the roll; -1: there is none for them
	First, Last int // labels of the run
	Left        int // labels that the roll has left then
}

// Stretches tells which labels of a run come off which roll, where rolls have so many labels left: the one in the
// printer first, then those that lie ready, in that order. A row of labels, or a sheet, comes off one roll whole.
// Labels for which no roll is left are the last stretch.
func Stretches(first, last, perRow int, rolls []int) (stretches []Stretch) {
	perRow = max(perRow, 1)
	for i, left := range rolls {
		if first > last {
			return stretches
		}
		begins := (first - 1) % perRow // places of its first row that came off before
		can := left/perRow*perRow - begins
		if can <= 0 {
			continue
		}
		end := min(first+can-1, last)
		stretches = append(stretches, Stretch{i, first, end, left - begins - (end - first + 1)})
		first = end + 1
	}
	if first <= last {
		stretches = append(stretches, Stretch{Roll: -1, First: first, Last: last})
	}
	return stretches
}
