package picture

import (
	"bytes"
	"encoding/binary"
	"math"
	"slices"

	"oddspool/core/measure"
)

// facts are what a file says of its picture besides its dots.
type facts struct {
	orientation  int     // 1 to 8, as EXIF (CIPA DC-008, 4.6.4) counts them; 1: as it stands
	perMM        float64 // dots a millimetre across; 0: it does not say
	perMMDown    float64
	sideways     bool // the orientation exchanges width and height
	mirrored     bool
	quarterTurns int // clockwise
}

// factsOf reads what a file says. What is broken says nothing.
func factsOf(data []byte, kind string) facts {
	f := facts{orientation: 1}
	switch kind {
	case "png":
		f.png(data)
	case "jpeg":
		f.jpeg(data)
	case "tiff":
		f.tiff(data)
	case "bmp": // BITMAPINFOHEADER: dots a metre
		if len(data) >= 46 {
			f.perMM = float64(int32(binary.LittleEndian.Uint32(data[38:]))) / 1000
			f.perMMDown = float64(int32(binary.LittleEndian.Uint32(data[42:]))) / 1000
		}
	}
	for _, n := range []*float64{&f.perMM, &f.perMMDown} {
		if !(*n >= 0.5 && *n <= 500) { // 12 to 12,700 dots an inch; others are slips
			f.perMM, f.perMMDown = 0, 0
		}
	}
	if f.orientation < 1 || f.orientation > 8 {
		f.orientation = 1
	}
	f.mirrored = f.orientation == 2 || f.orientation == 4 || f.orientation == 5 || f.orientation == 7
	f.quarterTurns = [9]int{0, 0, 0, 2, 2, 3, 1, 1, 3}[f.orientation]
	f.sideways = f.quarterTurns%2 == 1
	return f
}

// png reads pHYs (ISO/IEC 15948, 11.3.4.3).
func (f *facts) png(data []byte) {
	for at := 8; at+8 <= len(data); {
		long := int(binary.BigEndian.Uint32(data[at:]))
		kind := string(data[at+4 : at+8])
		if long < 0 || long > len(data)-at-8 || kind == "IDAT" {
			return
		}
		if body := data[at+8 : at+8+long]; kind == "pHYs" && long == 9 && body[8] == 1 {
			f.perMM = float64(binary.BigEndian.Uint32(body)) / 1000
			f.perMMDown = float64(binary.BigEndian.Uint32(body[4:])) / 1000
		}
		at += 12 + long
	}
}

// jpeg reads APP0 of JFIF (ISO/IEC 10918-5) and APP1 of EXIF.
func (f *facts) jpeg(data []byte) {
	for at := 2; at+4 <= len(data) && data[at] == 0xff; {
		marker, long := data[at+1], int(binary.BigEndian.Uint16(data[at+2:]))
		if long < 2 || at+2+long > len(data) || marker == 0xda {
			return
		}
		body := data[at+4 : at+2+long]
		switch {
		case marker == 0xe0 && len(body) >= 12 && bytes.HasPrefix(body, []byte("JFIF\x00")):
			f.dense(body[7], float64(binary.BigEndian.Uint16(body[8:])), float64(binary.BigEndian.Uint16(body[10:])), 1)
		case marker == 0xe1 && bytes.HasPrefix(body, []byte("Exif\x00\x00")):
			f.tiff(body[6:])
		}
		at += 2 + long
	}
}

// dense takes a density whose unit is the inch, or the centimetre after it.
func (f *facts) dense(unit byte, across, down float64, inch byte) {
	switch unit {
	case inch:
		f.perMM, f.perMMDown = across/25.4, down/25.4
	case inch + 1:
		f.perMM, f.perMMDown = across/10, down/10
	}
}

// tiff reads the first directory (TIFF 6.0, section 2).
func (f *facts) tiff(data []byte) {
	if len(data) < 8 {
		return
	}
	order := binary.ByteOrder(binary.BigEndian)
	if data[0] == 'I' {
		order = binary.LittleEndian
	}
	at := int64(order.Uint32(data[4:]))
	if at+2 > int64(len(data)) {
		return
	}
	unit, across, down := 2, 0.0, 0.0
	for n, i := int64(order.Uint16(data[at:])), int64(0); i < n; i++ {
		entry := at + 2 + 12*i
		if entry+12 > int64(len(data)) {
			break
		}
		tag, value := order.Uint16(data[entry:]), data[entry+8:entry+12]
		rational := func() float64 {
			off := int64(order.Uint32(value))
			if off+8 > int64(len(data)) || order.Uint32(data[off+4:]) == 0 {
				return 0
			}
			return float64(order.Uint32(data[off:])) / float64(order.Uint32(data[off+4:]))
		}
		switch tag {
		case 0x0112:
			f.orientation = int(order.Uint16(value))
		case 0x011a:
			across = rational()
		case 0x011b:
			down = rational()
		case 0x0128:
			unit = int(order.Uint16(value))
		}
	}
	if across > 0 && down > 0 && unit >= 2 && unit <= 3 {
		f.dense(byte(unit), across, down, 2)
	}
}

// upright turns a picture as its file says that it is seen.
func (p *Picture) upright(f facts) *Picture {
	p.shades, p.alphas = turned(p.shades, p.Width, f), turned(p.alphas, p.Width, f)
	if f.sideways {
		p.Width, p.Height = p.Height, p.Width
	}
	if f.perMM > 0 && f.perMMDown > 0 {
		across, down := f.perMM, f.perMMDown
		if f.sideways {
			across, down = down, across
		}
		p.TrueWidth = measure.Length(math.Round(float64(p.Width) / across * float64(measure.Millimetre)))
		p.TrueHeight = measure.Length(math.Round(float64(p.Height) / down * float64(measure.Millimetre)))
	}
	return p
}

// turned returns rows of so many dots mirrored and turned; those that are none stay none.
func turned(dots []uint8, width int, f facts) []uint8 {
	if f.mirrored {
		for row := range slices.Chunk(dots, width) {
			slices.Reverse(row)
		}
	}
	for range f.quarterTurns {
		height := len(dots) / width
		made := make([]uint8, len(dots))
		for i, dot := range dots {
			made[i%width*height+height-1-i/width] = dot
		}
		dots, width = made, height
		if len(dots) == 0 {
			return nil
		}
	}
	return dots
}
