package render_test

import (
	"bytes"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/core/measure"
	"oddspool/core/ordered"
	"oddspool/core/render"
	"oddspool/core/typeset"
)

// said is a label with words, turned, in several scripts.
func said(t testing.TB, turn measure.Turn, words string) *render.List {
	face, err := typeset.Find("Liberation Sans", false, false)
	require.NoError(t, err)
	var block typeset.Block
	block.Set(words, typeset.Style{Face: face, PerEm: eight.PerEm(14)})
	l := &render.List{}
	l.Reset(400, 400)
	l.Words(0, 0, 0, eight.PerEm(14), render.Box{}, block.Glyphs)
	l.Place(0, 30, 30, turn, 340, 340)
	l.Fill(1, render.Box{X: 4, Y: 4, W: 40, H: 3})
	return l
}

// Letters of a PDF are drawn where they print, turned as they are, and can be copied; whoever draws the document at the
// printer's resolution gets the printed dots but for the edges of letters.
func TestPDFTextIsDrawnAndCanBeCopied(t *testing.T) {
	folder := t.TempDir()
	path := filepath.Join(folder, "words.pdf")
	var file bytes.Buffer
	document, pages := newPDF(t, &file, "Rødalge", eight)
	turns := []measure.Turn{0, 90, 180, 270}
	const words = "Rødalge Соль 3 kg"
	for _, turn := range turns {
		require.NoError(t, pages.Add(said(t, turn, words)))
	}
	require.NoError(t, document.Close())
	require.NoError(t, os.WriteFile(path, file.Bytes(), 0o600))
	out, err := exec.Command("qpdf", "--check", path).CombinedOutput()
	require.NoError(t, err, string(out))
	out, err = exec.Command("pdftotext", "-l", "1", path, "-").CombinedOutput()
	require.NoError(t, err, string(out))
	require.Equal(t, words, strings.Join(strings.Fields(string(out)), " "))
	out, err = exec.Command("pdfinfo", path).CombinedOutput()
	require.NoError(t, err)
	require.Contains(t, string(out), "Rødalge")
	out, err = exec.Command("pdftoppm", "-r", fmt.Sprint(eight.PerInch()), "-mono", "-aa", "no", path,
		path).CombinedOutput()
	require.NoError(t, err, string(out))
	require.NotContains(t, string(out), "Error")
	for i, turn := range turns {
		got, want := readPBM(t, fmt.Sprintf("%s-%d.pbm", path, i+1)), drawn(said(t, turn, words))
		lacks, more, dark := 0, 0, 0
		for y := range want.Height {
			for x := range want.Width {
				if want.Set(x, y) {
					dark++
				}
				switch {
				case want.Set(x, y) && !got.Set(x, y):
					lacks++
				case got.Set(x, y) && !want.Set(x, y):
					more++ // Poppler sets every dot that an outline touches
				}
			}
		}
		require.Less(t, lacks, dark/50, "turned %d", turn)
		require.Less(t, more, dark/2, "turned %d", turn)
	}
}

// Pages that are drawn on all cores give the same bytes, and a long document is one that others read.
func TestPDFOfManyPages(t *testing.T) {
	write := func() []byte {
		var file bytes.Buffer
		document, pages := newPDF(t, &file, "many", eight)
		lists := make([]*render.List, 150)
		for i := range lists {
			lists[i] = said(t, 0, fmt.Sprintf("Lot %d Ж昆", i))
		}
		require.NoError(t, ordered.Each(len(lists),
			func(_, i int) (*render.DrawnPage, error) { return pages.Draw(lists[i]), nil }, document.Put))
		require.NoError(t, document.Close())
		return file.Bytes()
	}
	first := write()
	require.Equal(t, first, write())
	require.Less(t, len(first), 150*1000+20_000)
	path := filepath.Join(t.TempDir(), "many.pdf")
	require.NoError(t, os.WriteFile(path, first, 0o600))
	out, err := exec.Command("qpdf", "--check", path).CombinedOutput()
	require.NoError(t, err, string(out))
	out, err = exec.Command("pdfinfo", path).CombinedOutput()
	require.NoError(t, err)
	require.Regexp(t, `Pages:\s+150`, string(out))
	out, err = exec.Command("pdftotext", "-f", "150", path, "-").CombinedOutput()
	require.NoError(t, err)
	require.Contains(t, string(out), "149")
}
