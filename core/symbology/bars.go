package symbology

// twoWidths appends elements of which each set bit of a pattern is wide, its highest of n bits first.
func (s *Symbol) twoWidths(pattern, n int) {
	for i := n - 1; i >= 0; i-- {
		s.Widths = append(s.Widths, uint8(1+pattern>>i&1))
	}
}

// bits appends the runs of a pattern of n modules that begins with a bar and ends with a space.
func (s *Symbol) bits(pattern, n int) {
	run := uint8(0)
	for i := n - 1; i >= 0; i-- {
		run++
		if i == 0 || pattern>>i&1 != pattern>>(i-1)&1 {
			s.Widths = append(s.Widths, run)
			run = 0
		}
	}
}
