package picture_test

import (
	"bytes"
	"encoding/base64"
	"encoding/binary"
	"fmt"
	"hash/crc32"
	"image"
	"image/color"
	"image/gif"
	"image/jpeg"
	"image/png"
	"slices"
	"strings"
	"testing"

	"oddspool/core/refusal"

	"github.com/stretchr/testify/require"
	"golang.org/x/image/bmp"
	"golang.org/x/image/tiff"

	"oddspool/core/measure"
	"oddspool/core/picture"
	"oddspool/core/render"
)

func encoded(t testing.TB, w, h int, at func(x, y int) color.Color) []byte {
	made := image.NewNRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			made.Set(x, y, at(x, y))
		}
	}
	var file bytes.Buffer
	require.NoError(t, png.Encode(&file, made))
	return file.Bytes()
}

func dark(p *render.Plane) (n int) {
	for y := range p.Height {
		p.EachDot(y, func(int) { n++ })
	}
	return n
}

// Of an even grey as many dots are set as it is dark, in both patterns; a threshold sets all or none.
func TestShadesBecomeAsManyDots(t *testing.T) {
	for _, grey := range []uint8{10, 64, 100, 150, 200, 250} {
		p, err := picture.Decode(encoded(t, 30, 30, func(int, int) color.Color { return color.Gray{grey} }))
		require.NoError(t, err)
		want := 128 * 128 * (255 - int(grey)) / 255
		for _, way := range []picture.Way{picture.Ordered, picture.Diffused} {
			require.InDelta(t, want, dark(p.Dots(128, 128, way, 0, true)), 128*128/60, "%q of grey %d", way, grey)
		}
		all := 0
		if grey < 128 {
			all = 128 * 128
		}
		require.Equal(t, all, dark(p.Dots(128, 128, picture.Threshold, 0, true)))
	}
}

// Dots stay where the picture has them, whatever the size; proportions are kept unless it is stretched on purpose.
func TestPicturesKeepTheirShape(t *testing.T) {
	data := encoded(t, 40, 20, func(x, _ int) color.Color {
		if x < 10 {
			return color.Black
		}
		return color.Transparent
	})
	p, err := picture.Decode(data)
	require.NoError(t, err)
	require.Equal(t, 10*20, dark(p.Dots(40, 20, picture.Threshold, 0, false)), "dot for dot")
	require.Equal(t, 20*40, dark(p.Dots(80, 80, picture.Threshold, 0, false)), "80 × 40 in the middle")
	require.False(t, p.Dots(80, 80, picture.Threshold, 0, false).Set(0, 10))
	require.Equal(t, 20*80, dark(p.Dots(80, 80, picture.Threshold, 0, true)))
	require.Equal(t, 3*5, dark(p.Dots(12, 5, picture.Threshold, 0, true)),
		"smaller, each dot the mean of what it covers")
	require.Zero(t, dark(p.Dots(40, 20, picture.Threshold, 100, false)), "so light that nothing is left")
	require.Equal(t, 40*20, dark(p.Dots(40, 20, picture.Threshold, -100, false)))
}

func TestUntrustedFilesAreRefusedInWords(t *testing.T) {
	small := encoded(t, 3, 3, func(int, int) color.Color { return color.Black })
	bomb := bytes.Clone(small)
	copy(bomb[16:], []byte{0, 1, 0, 0, 0, 1, 0, 0}) // 65,536 × 65,536 in its header
	for text, data := range map[string][]byte{"no picture": []byte("%PDF-1.7"), "MB are taken": make([]byte, 21<<20),
		"broken": small[:len(small)-20], "is no picture": nil} {
		_, err := picture.Decode(data)
		require.IsType(t, &refusal.Error{}, err)
		require.ErrorContains(t, err, strings.TrimPrefix(text, "is "))
	}
	_, err := picture.Decode(bomb)
	require.IsType(t, &refusal.Error{}, err)
	made := image.NewPaletted(image.Rect(0, 0, 4, 4), color.Palette{color.Black, color.White})
	var asGIF, asJPEG bytes.Buffer
	require.NoError(t, gif.Encode(&asGIF, made, nil))
	require.NoError(t, jpeg.Encode(&asJPEG, made, nil))
	for _, data := range [][]byte{asGIF.Bytes(), asJPEG.Bytes()} {
		p, err := picture.Decode(data)
		require.NoError(t, err)
		require.Equal(t, 16, dark(p.Dots(4, 4, picture.Threshold, 0, false)))
	}
}

func TestPicturesAreFoundByTheirHashes(t *testing.T) {
	data := encoded(t, 3, 3, func(int, int) color.Color { return color.Black })
	hash := picture.Hash(data)
	_, err := picture.Find(hash)
	require.Equal(t, &picture.AbsentError{Hash: hash}, err)
	asked := 0
	picture.SetSource(func(wanted string) ([]byte, error) {
		asked++
		if wanted != hash {
			return nil, &picture.AbsentError{Hash: wanted}
		}
		return data, nil
	})
	defer picture.SetSource(nil)
	for range 3 {
		p, err := picture.Find(hash)
		require.NoError(t, err)
		require.Equal(t, 3, p.Width)
	}
	require.Equal(t, 1, asked, "it is read once")
	_, err = picture.Find("other")
	require.IsType(t, &picture.AbsentError{}, err)
}

func BenchmarkDots(b *testing.B) {
	p, err := picture.Decode(encoded(b, 800, 800, func(x, y int) color.Color { return color.Gray{uint8(x ^ y)} }))
	require.NoError(b, err)
	for b.Loop() {
		p.Dots(160, 160, picture.Diffused, 0, false)
	}
}

func ExamplePicture_Dots() {
	made := image.NewGray(image.Rect(0, 0, 8, 4))
	for i := range made.Pix {
		made.Pix[i] = uint8(i % 8 * 36) // from black at the left to white at the right
	}
	var file bytes.Buffer
	_ = png.Encode(&file, made)
	p, _ := picture.Decode(file.Bytes())
	dots := p.Dots(8, 4, picture.Ordered, 0, false)
	for y := range dots.Height {
		for x := range dots.Width {
			fmt.Print(map[bool]string{true: "#", false: "."}[dots.Set(x, y)])
		}
		fmt.Println()
	}
	// Output:
	// ##.#....
	// ###.#.#.
	// ##.#.#..
	// ###.#.#.
}

// Trimming finds the white round what a picture shows, and cropping leaves what is within.
func TestWhiteIsFoundAndCutOff(t *testing.T) {
	p, err := picture.Decode(encoded(t, 100, 50, func(x, y int) color.Color {
		if x >= 10 && x < 60 && y >= 5 && y < 45 {
			return color.Black
		}
		return color.White
	}))
	require.NoError(t, err)
	left, top, right, bottom := p.White()
	require.Equal(t, []float64{10, 10, 40, 10}, []float64{left, top, right, bottom})
	cut := p.Cropped(left, top, right, bottom)
	require.Equal(t, []int{50, 40}, []int{cut.Width, cut.Height})
	require.Equal(t, 50*40, dark(cut.Dots(50, 40, picture.Threshold, 0, false)), "all that is left is dark")
	one := p.Cropped(99, 99, 99, 99)
	require.Equal(t, []int{1, 1}, []int{one.Width, one.Height})
	blank, err := picture.Decode(encoded(t, 9, 9, func(int, int) color.Color { return color.White }))
	require.NoError(t, err)
	left, top, right, bottom = blank.White()
	require.Zero(t, left+top+right+bottom)
}

// withChunk puts a chunk behind a PNG's header.
func withChunk(file []byte, kind string, body []byte) []byte {
	chunk := binary.BigEndian.AppendUint32(nil, uint32(len(body)))
	chunk = append(append(chunk, kind...), body...)
	chunk = binary.BigEndian.AppendUint32(chunk, crc32.ChecksumIEEE(chunk[4:]))
	return slices.Concat(file[:33], chunk, file[33:])
}

// exif returns a JPEG segment with an orientation and a density.
func exif(orientation, perInch int) []byte {
	tiff := []byte("II*\x00\x08\x00\x00\x00\x03\x00")
	entry := func(tag, kind, value int) {
		tiff = binary.LittleEndian.AppendUint16(tiff, uint16(tag))
		tiff = binary.LittleEndian.AppendUint16(tiff, uint16(kind))
		tiff = binary.LittleEndian.AppendUint32(tiff, 1)
		tiff = binary.LittleEndian.AppendUint32(tiff, uint32(value))
	}
	entry(0x0112, 3, orientation)
	entry(0x011a, 5, 50)
	entry(0x011b, 5, 50)
	tiff = append(tiff, 0, 0, 0, 0)
	tiff = append(tiff, make([]byte, 50-len(tiff))...)
	tiff = binary.LittleEndian.AppendUint32(tiff, uint32(perInch))
	tiff = binary.LittleEndian.AppendUint32(tiff, 1)
	body := append([]byte("Exif\x00\x00"), tiff...)
	return append([]byte{0xff, 0xe1, byte((len(body) + 2) >> 8), byte(len(body) + 2)}, body...)
}

// A file's own resolution gives its true size, and its orientation how it is seen, whichever of the eight it is.
func TestFilesSayHowLargeAndHowTurnedTheyAre(t *testing.T) {
	corner := func(x, y int) color.Color { // dark at the top left
		if x < 16 && y < 16 {
			return color.Black
		}
		return color.White
	}
	// 8,000 and 4,000 dots a metre
	sized := withChunk(encoded(t, 64, 32, corner), "pHYs", []byte{0, 0, 0x1f, 0x40, 0, 0, 0x0f, 0xa0, 1})
	p, err := picture.Decode(sized)
	require.NoError(t, err)
	require.Equal(t, []measure.Length{8 * measure.Millimetre, 8 * measure.Millimetre},
		[]measure.Length{p.TrueWidth, p.TrueHeight})

	made := image.NewGray(image.Rect(0, 0, 64, 32))
	for y := range 32 {
		for x := range 64 {
			made.Set(x, y, corner(x, y))
		}
	}
	var plain bytes.Buffer
	require.NoError(t, jpeg.Encode(&plain, made, &jpeg.Options{Quality: 100}))
	for orientation, at := range []string{"", "top left", "top right", "bottom right", "bottom left", "top left",
		"top right", "bottom right", "bottom left"} {
		if orientation == 0 {
			continue
		}
		file := slices.Concat(plain.Bytes()[:2], exif(orientation, 254), plain.Bytes()[2:])
		p, err := picture.Decode(file)
		require.NoError(t, err)
		wide, tall := 64, 32
		if orientation > 4 {
			wide, tall = 32, 64
		}
		require.Equal(t, []int{wide, tall}, []int{p.Width, p.Height}, orientation)
		require.InDelta(t, float64(wide)*100, float64(p.TrueWidth), 1, "at 254 dots an inch")
		plane := p.Dots(wide, tall, picture.Threshold, 0, true)
		got := map[bool]string{true: "top", false: "bottom"}[plane.Set(3, 3) || plane.Set(wide-4, 3)] + " " +
			map[bool]string{true: "left", false: "right"}[plane.Set(3, 3) || plane.Set(3, tall-4)]
		require.Equal(t, at, got, "orientation %d", orientation)
	}
}

// Other kinds of file give the same dots as PNG does.
func TestKindsOfFiles(t *testing.T) {
	at := func(x, y int) color.Color { return color.Gray{Y: uint8(x * 4)} }
	want, err := picture.Decode(encoded(t, 60, 20, at))
	require.NoError(t, err)
	made := image.NewNRGBA(image.Rect(0, 0, 60, 20))
	for y := range 20 {
		for x := range 60 {
			made.Set(x, y, at(x, y))
		}
	}
	for name, encode := range map[string]func(*bytes.Buffer) error{
		"bmp":  func(b *bytes.Buffer) error { return bmp.Encode(b, made) },
		"tiff": func(b *bytes.Buffer) error { return tiff.Encode(b, made, nil) },
	} {
		var file bytes.Buffer
		require.NoError(t, encode(&file))
		got, err := picture.Decode(file.Bytes())
		require.NoError(t, err, name)
		require.Equal(t, want.Dots(60, 20, picture.Ordered, 0, true), got.Dots(60, 20, picture.Ordered, 0, true), name)
	}
	// One dark dot on white, as WebP without loss (RFC 9649).
	webp, err := base64.StdEncoding.DecodeString("UklGRhoAAABXRUJQVlA4TA0AAAAvAAAAEAcQERGIiP4HAA==")
	require.NoError(t, err)
	got, err := picture.Decode(webp)
	require.NoError(t, err)
	require.Equal(t, 1, got.Width)
}

func FuzzDecode(f *testing.F) {
	f.Add([]byte("II*\x00\x08\x00\x00\x00\x01\x00"))
	f.Add(append([]byte{0xff, 0xd8}, exif(6, 300)...))
	f.Fuzz(func(_ *testing.T, data []byte) { _, _ = picture.Decode(data) }) // it may fail, and never panics
}
