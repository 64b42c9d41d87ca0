package artwork

import (
	"bytes"
	"compress/zlib"
	"errors"
	"fmt"
	"io"
	"math"
	"os"
	"path/filepath"
	"regexp"
	"strconv"
	"strings"

	"github.com/klippa-app/go-pdfium"
	"github.com/klippa-app/go-pdfium/references"
	"github.com/klippa-app/go-pdfium/requests"
	"github.com/klippa-app/go-pdfium/webassembly"
	"github.com/tetratelabs/wazero"
	"github.com/tetratelabs/wazero/api"
	"github.com/tetratelabs/wazero/experimental"
)

// reader starts PDFium: compiling it takes seconds, and from its cache a part of one.
func reader() (pdfium.Pool, error) {
	cache, err := wazero.NewCompilationCacheWithDir(compiled())
	if err != nil {
		cache = wazero.NewCompilationCache()
	}
	pool, err := webassembly.Init(webassembly.Config{
		MinIdle: 0, MaxIdle: 1, MaxTotal: 1,
		FSConfig: wazero.NewFSConfig(), // it sees no file
		RuntimeConfig: wazero.NewRuntimeConfig().WithCoreFeatures(
			api.CoreFeaturesV2 | experimental.CoreFeaturesExceptionHandling).
			// 400 MB; the limit of the process counts copies too
			WithCompilationCache(cache).WithMemoryLimitPages(6_400),
		Stdout: io.Discard, Stderr: io.Discard,
	})
	if err != nil {
		return nil, fmt.Errorf("start the PDF reader: %w", err)
	}
	return pool, nil
}

// compiled is the folder that keeps what compiling makes.
func compiled() string {
	folder, err := os.UserCacheDir()
	if err != nil {
		folder = os.TempDir()
	}
	return filepath.Join(folder, "oddspool", "pdf")
}

// pdfPages gives the pages of a PDF one by one. What is wrong with it is a *refusal.Error.
func pdfPages(pool pdfium.Pool, data []byte, each func(Page) error) (err error) {
	instance, err := pool.GetInstance(limits.Time)
	if err != nil {
		return fmt.Errorf("start the PDF reader: %w", err)
	}
	defer func() { err = errors.Join(err, instance.Close()) }()
	opened, err := instance.OpenDocument(&requests.OpenDocument{File: &data})
	if err != nil {
		if strings.Contains(strings.ToLower(err.Error()), "password") {
			return pdfPassword.With()
		}
		return pdfBroken.With()
	}
	count, err := instance.FPDF_GetPageCount(&requests.FPDF_GetPageCount{Document: opened.Document})
	if err != nil {
		return pdfNoPages.With()
	}
	if count.PageCount < 1 || count.PageCount > MostPages {
		return pdfTooManyPages.With(count.PageCount, MostPages)
	}
	unit, err := userUnit(data, count.PageCount)
	if err != nil {
		return err
	}
	for n := range count.PageCount {
		page, err := pdfPage(instance, opened.Document, n, unit)
		if err == nil {
			err = each(page)
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// pdfPage draws a page, counted from 0, whose points are units of 1/72 inch.
func pdfPage(instance pdfium.Pdfium, document references.FPDF_DOCUMENT, n int, unit float64) (Page, error) {
	size, err := instance.FPDF_GetPageSizeByIndex(&requests.FPDF_GetPageSizeByIndex{Document: document, Index: n})
	if err != nil {
		return Page{}, pdfPageBroken.With(n + 1)
	}
	inch := 25.4 / 72 * unit // millimetres in a point
	w, h := size.Width*inch, size.Height*inch
	perMM, err := resolution(w, h, n+1)
	if err != nil {
		return Page{}, err
	}
	dpi := max(math.Round(perMM*inch*72), 1)
	drawn, err := instance.RenderPageInDPI(
		&requests.RenderPageInDPI{Page: requests.Page{ByIndex: &requests.PageByIndex{Document: document, Index: n}},
			DPI: int(dpi)})
	if err != nil {
		return Page{}, pdfPageNotDrawn.With(n + 1)
	}
	defer drawn.Cleanup()
	shapes := shapesOf(instance, document, n, size.Height, inch*1000)
	return newPage(drawn.Result.RenderedImage, dpi/72/inch, asDrawn{shapes, w, h})
}

var userUnits = regexp.MustCompile(`/UserUnit\s+([0-9.]+)`)

// userUnit returns how many 1/72 inch a unit of a PDF's pages is (ISO 32000-1, 14.11.2), which PDFium leaves out. Pages
// that differ are refused.
func userUnit(data []byte, pages int) (float64, error) {
	unit := 1.0
	found := userUnits.FindAllSubmatch(append(objects(data), data...), -1)
	for i, match := range found {
		n, err := strconv.ParseFloat(string(match[1]), 64)
		if err != nil || n <= 0 || i > 0 && n != unit {
			return 0, pdfUnitsDiffer.With()
		}
		unit = n
	}
	if len(found) > 0 && len(found) != pages {
		return 0, pdfUnitsUncertain.With(len(found), pages)
	}
	return unit, nil
}

// objects returns the objects of a PDF that are packed in streams (ISO 32000-1, 7.5.7), as far as they can be unpacked.
func objects(data []byte) (all []byte) {
	const most, head = 16 << 20, 1024
	for at := 0; ; {
		i := bytes.Index(data[at:], []byte("stream"))
		if i < 0 {
			return all
		}
		before := data[max(at+i-head, 0) : at+i]
		at += i + len("stream")
		if start := bytes.LastIndex(before, []byte(" obj")); start < 0 ||
			!bytes.Contains(before[start:], []byte("/ObjStm")) {
			continue
		}
		packed := bytes.TrimPrefix(bytes.TrimPrefix(data[at:], []byte("\r")), []byte("\n"))
		in, err := zlib.NewReader(bytes.NewReader(packed))
		if err != nil {
			continue
		}
		part, _ := io.ReadAll(io.LimitReader(in, int64(most-len(all)))) // what is there counts
		all = append(all, part...)
	}
}
