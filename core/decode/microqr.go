package decode

// MicroQR reads Micro QR Code.
func MicroQR(m *Modules) (Message, error) {
	version := (m.Width - 9) / 2
	if m.Width != m.Height || version < 1 || version > 4 || m.Width != 9+2*version || !finderHere(m, 0, 0) {
		return Message{}, ErrPattern
	}
	for i := 8; i < m.Width; i++ {
		if m.At(i, 0) != (i%2 == 0) || m.At(0, i) != (i%2 == 0) {
			return Message{}, ErrPattern
		}
	}
	format := 0 // from below the finder to beside it
	for x := 1; x <= 8; x++ {
		format = format<<1 | bit(m.At(x, 8))
	}
	for y := 7; y >= 1; y-- {
		format = format<<1 | bit(m.At(8, y))
	}
	// The 32 right formats, by the polynomial that makes each (annex C): what is right is left without a rest.
	format ^= 0x4445
	if rest(format, 15, 0x537, 10) != 0 {
		return Message{}, ErrCheck
	}
	// Version and level by number (table 13): bits of data and check words.
	sizes := []struct{ version, bits, check int }{{1, 20, 2}, {2, 40, 5}, {2, 32, 6}, {3, 84, 6}, {3, 68, 8},
		{4, 128, 8}, {4, 112, 10}, {4, 80, 14}}
	size := sizes[format>>12]
	if size.version != version {
		return Message{}, ErrPattern
	}
	flip := [4]func(x, y int) bool{
		func(_, y int) bool { return y&1 == 0 },
		func(x, y int) bool { return (y>>1+x/3)&1 == 0 },
		func(x, y int) bool { return (x*y&1+x*y%3)&1 == 0 },
		func(x, y int) bool { return ((x+y)&1+x*y%3)&1 == 0 },
	}[format>>10&3]
	read := codeWalk(m, -1, func(x, y int) bool { return x > 0 && y > 0 && (x > 8 || y > 8) }, flip)
	if len(read) < size.bits+8*size.check {
		return Message{}, ErrPattern
	}
	data, check := read[:size.bits], read[size.bits:size.bits+8*size.check]
	whole := data
	for len(whole)%8 != 0 { // half a word has zeros for its lower half in the check
		whole = append(whole[:len(whole):len(whole)], false)
	}
	if !rightWords(append(wordsOf(whole), wordsOf(check)...), size.check, 0, 256, 0x11D) {
		return Message{}, ErrCheck
	}
	h := qrHeads{indicator: version - 1, terminator: 2*version + 1, modes: map[int]int{0: numeric, 1: alphanumeric,
		2: byteMode, 3: kanjiMode},
		counts: [4]int{version + 2, version + 1, version + 1, version}}
	return h.text(&stream{data: data})
}

func bit(set bool) int {
	if set {
		return 1
	}
	return 0
}

// rest divides a number of so many bits by a polynomial of degree check and returns what is left.
func rest(number, bits, polynomial, check int) int {
	for i := bits - 1; i >= check; i-- {
		if number>>i&1 == 1 {
			number ^= polynomial << (i - check)
		}
	}
	return number
}

// rmqrSize is a version of rMQR Code with its blocks by level: how many there are, words of data of the
// shorter ones, and check words of each (ISO/IEC 23941, table 8); the longer ones have one word of data more.
type rmqrSize struct {
	h, w    int
	counts  [4]int
	m, high rmqrBlocks
}

type rmqrBlocks struct{ short, long, data, check int }

var rmqrSizes = []rmqrSize{
	{7, 43, [4]int{4, 3, 3, 2}, rmqrBlocks{1, 0, 6, 7}, rmqrBlocks{1, 0, 3, 10}},
	{7, 59, [4]int{5, 5, 4, 3}, rmqrBlocks{1, 0, 12, 9}, rmqrBlocks{1, 0, 7, 14}},
	{7, 77, [4]int{6, 5, 5, 4}, rmqrBlocks{1, 0, 20, 12}, rmqrBlocks{1, 0, 10, 22}},
	{7, 99, [4]int{7, 6, 5, 5}, rmqrBlocks{1, 0, 28, 16}, rmqrBlocks{1, 0, 14, 30}},
	{7, 139, [4]int{7, 6, 6, 5}, rmqrBlocks{1, 0, 44, 24}, rmqrBlocks{2, 0, 12, 22}},
	{9, 43, [4]int{5, 5, 4, 3}, rmqrBlocks{1, 0, 12, 9}, rmqrBlocks{1, 0, 7, 14}},
	{9, 59, [4]int{6, 5, 5, 4}, rmqrBlocks{1, 0, 21, 12}, rmqrBlocks{1, 0, 11, 22}},
	{9, 77, [4]int{7, 6, 5, 5}, rmqrBlocks{1, 0, 31, 18}, rmqrBlocks{1, 1, 8, 16}},
	{9, 99, [4]int{7, 6, 6, 5}, rmqrBlocks{1, 0, 42, 24}, rmqrBlocks{2, 0, 11, 22}},
	{9, 139, [4]int{8, 7, 6, 6}, rmqrBlocks{1, 1, 31, 18}, rmqrBlocks{3, 0, 11, 22}},
	{11, 27, [4]int{4, 4, 3, 2}, rmqrBlocks{1, 0, 7, 8}, rmqrBlocks{1, 0, 5, 10}},
	{11, 43, [4]int{6, 5, 5, 4}, rmqrBlocks{1, 0, 19, 12}, rmqrBlocks{1, 0, 11, 20}},
	{11, 59, [4]int{7, 6, 5, 5}, rmqrBlocks{1, 0, 31, 16}, rmqrBlocks{1, 1, 7, 16}},
	{11, 77, [4]int{7, 6, 6, 5}, rmqrBlocks{1, 0, 43, 24}, rmqrBlocks{1, 1, 11, 22}},
	{11, 99, [4]int{8, 7, 6, 6}, rmqrBlocks{1, 1, 28, 16}, rmqrBlocks{1, 1, 14, 30}},
	{11, 139, [4]int{8, 7, 7, 6}, rmqrBlocks{2, 0, 42, 24}, rmqrBlocks{3, 0, 14, 30}},
	{13, 27, [4]int{5, 5, 4, 3}, rmqrBlocks{1, 0, 12, 9}, rmqrBlocks{1, 0, 7, 14}},
	{13, 43, [4]int{6, 6, 5, 5}, rmqrBlocks{1, 0, 27, 14}, rmqrBlocks{1, 0, 13, 28}},
	{13, 59, [4]int{7, 6, 6, 5}, rmqrBlocks{1, 0, 38, 22}, rmqrBlocks{2, 0, 10, 20}},
	{13, 77, [4]int{7, 7, 6, 6}, rmqrBlocks{1, 1, 26, 16}, rmqrBlocks{1, 1, 14, 28}},
	{13, 99, [4]int{8, 7, 7, 6}, rmqrBlocks{1, 1, 36, 20}, rmqrBlocks{1, 2, 11, 26}},
	{13, 139, [4]int{8, 8, 7, 7}, rmqrBlocks{2, 1, 35, 20}, rmqrBlocks{2, 2, 13, 28}},
	{15, 43, [4]int{7, 6, 6, 5}, rmqrBlocks{1, 0, 33, 18}, rmqrBlocks{1, 1, 7, 18}},
	{15, 59, [4]int{7, 7, 6, 5}, rmqrBlocks{1, 0, 48, 26}, rmqrBlocks{2, 0, 13, 24}},
	{15, 77, [4]int{8, 7, 7, 6}, rmqrBlocks{1, 1, 33, 18}, rmqrBlocks{2, 1, 10, 24}},
	{15, 99, [4]int{8, 7, 7, 6}, rmqrBlocks{2, 0, 44, 24}, rmqrBlocks{4, 0, 12, 22}},
	{15, 139, [4]int{9, 8, 7, 7}, rmqrBlocks{2, 1, 42, 24}, rmqrBlocks{1, 4, 13, 26}},
	{17, 43, [4]int{7, 6, 6, 5}, rmqrBlocks{1, 0, 39, 22}, rmqrBlocks{1, 1, 10, 20}},
	{17, 59, [4]int{8, 7, 6, 6}, rmqrBlocks{2, 0, 28, 16}, rmqrBlocks{2, 0, 14, 30}},
	{17, 77, [4]int{8, 7, 7, 6}, rmqrBlocks{2, 0, 39, 22}, rmqrBlocks{1, 2, 12, 28}},
	{17, 99, [4]int{8, 8, 7, 6}, rmqrBlocks{2, 1, 33, 20}, rmqrBlocks{4, 0, 14, 26}},
	{17, 139, [4]int{9, 8, 8, 7}, rmqrBlocks{4, 0, 38, 20}, rmqrBlocks{2, 4, 12, 26}},
}

// RMQR reads rMQR Code.
func RMQR(m *Modules) (Message, error) {
	number := -1
	for i, size := range rmqrSizes {
		if size.w == m.Width && size.h == m.Height {
			number = i
		}
	}
	if number < 0 || !finderHere(m, 0, 0) {
		return Message{}, ErrPattern
	}
	size := &rmqrSizes[number]
	format := 0 // on the left: the last three bits stand by themselves
	for _, place := range [][2]int{{11, 3}, {11, 2}, {11, 1}, {10, 5}, {10, 4}, {10, 3}, {10, 2}, {10, 1}, {9, 5},
		{9, 4}, {9, 3}, {9, 2}, {9, 1}, {8, 5}, {8, 4}, {8, 3}, {8, 2}, {8, 1}} {
		format = format<<1 | bit(m.At(place[0], place[1]))
	}
	format ^= 0x1FAB2
	if rest(format, 18, 0x1F25, 12) != 0 || format>>12&31 != number {
		return Message{}, ErrCheck
	}
	blocks := size.m
	if format>>17 == 1 {
		blocks = size.high
	}
	read := codeWalk(m, m.Width-1, func(x, y int) bool { return rmqrData(m, x, y) },
		func(x, y int) bool { return (y>>1+x/3)&1 == 0 })
	data, err := untangle(wordsOf(read), blocks)
	if err != nil {
		return Message{}, err
	}
	h := qrHeads{indicator: 3, terminator: 3, modes: map[int]int{0: ended, 1: numeric, 2: alphanumeric, 3: byteMode,
		4: kanjiMode, 5: fnc1First, 7: eciMode}, counts: size.counts}
	return h.text(streamOf(data))
}

// rmqrData tells whether a module holds data: not the edge, the finders, the corners, the alignment
// patterns with the lines between them, nor the format (figures 2 to 5).
func rmqrData(m *Modules, x, y int) bool {
	right, below := m.Width-1-x, m.Height-1-y
	switch {
	case x == 0 || y == 0 || right == 0 || below == 0,
		x < 8 && y < 8, right < 5 && below < 5, // finders
		right == 1 && y == 1, x == 1 && below == 1, // corners
		x < 11 && x > 7 && y < 6, x == 11 && y < 4, // the format on the left
		right > 4 && right < 8 && below < 6 && below > 0, right > 1 && right < 5 && below == 5: // and on the right
		return false
	}
	var lines []int
	switch m.Width {
	case 43:
		lines = []int{21}
	case 59:
		lines = []int{19, 39}
	case 77:
		lines = []int{25, 51}
	case 99:
		lines = []int{23, 49, 75}
	case 139:
		lines = []int{27, 55, 83, 111}
	}
	for _, line := range lines {
		if x == line || (x == line-1 || x == line+1) && (y <= 2 || below <= 2) {
			return false
		}
	}
	return true
}

// untangle puts the words of blocks together that stand in turn, and looks at the check words of each.
func untangle(words []byte, b rmqrBlocks) ([]byte, error) {
	n := b.short + b.long
	if len(words) < b.short*b.data+b.long*(b.data+1)+n*b.check {
		return nil, ErrPattern
	}
	blocks := make([][]byte, n)
	at := 0
	for i := range b.data + 1 {
		for block := range n {
			if i < b.data || block >= b.short {
				blocks[block] = append(blocks[block], words[at])
				at++
			}
		}
	}
	var data []byte
	checks := words[at:]
	for block := range n {
		data = append(data, blocks[block]...)
		for i := range b.check {
			blocks[block] = append(blocks[block], checks[i*n+block])
		}
		if !rightWords(blocks[block], b.check, 0, 256, 0x11D) {
			return nil, ErrCheck
		}
	}
	return data, nil
}
