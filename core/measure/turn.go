package measure

// A Turn is a whole number of quarter turns, in degrees clockwise: 0, 90, 180 or 270.
type Turn int

// Valid tells whether t is one of the four quarter turns.
func (t Turn) Valid() bool { return t == 0 || t == 90 || t == 180 || t == 270 }

// Plus returns the turn that follows when both are done.
func (t Turn) Plus(other Turn) Turn { return ((t+other)%360 + 360) % 360 }

// Sideways tells whether the turn swaps width and height.
func (t Turn) Sideways() bool { return t == 90 || t == 270 }

// Size returns width and height of a w × h box after the turn.
func (t Turn) Size(w, h int) (int, int) {
	if t.Sideways() {
		return h, w
	}
	return w, h
}

// Box turns the box at x, y of size w × h, which lies in a frame of frameW × frameH, together
// with that frame, and returns where it lies in the turned one.
func (t Turn) Box(x, y, w, h, frameW, frameH int) (int, int, int, int) {
	switch t {
	case 90:
		return frameH - y - h, x, h, w
	case 180:
		return frameW - x - w, frameH - y - h, w, h
	case 270:
		return y, frameW - x - w, h, w
	}
	return x, y, w, h
}
