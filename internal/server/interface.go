package server

import (
	"bytes"
	"compress/gzip"
	"io/fs"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"github.com/gin-gonic/gin"
)

// places are what addresses of the page begin with, as web/src/router.ts has them.
var places = []string{"", "sign-in", "floor", "bench", "records", "stockroom", "runs", "reference", "you", "about",
	"audit"}

// servePacked serves what lies packed with gzip: as it lies, or unpacked for who does not take that.
func servePacked(c *gin.Context, packed []byte, kind string) {
	c.Header("Vary", "Accept-Encoding")
	if strings.Contains(c.GetHeader("Accept-Encoding"), "gzip") {
		c.Header("Content-Encoding", "gzip")
		c.Data(http.StatusOK, kind, packed)
		return
	}
	unpacked, err := gzip.NewReader(bytes.NewReader(packed))
	if err != nil {
		c.Status(http.StatusInternalServerError)
		return
	}
	c.DataFromReader(http.StatusOK, -1, kind, unpacked, nil)
}

var benchAddress = regexp.MustCompile(`^/bench/(\d{1,18})$`)

// asksFirst returns what the page at an address asks as soon as its code is read, so that it is on the way before: of a
// Bench what is on it, of all others who is signed in.
func asksFirst(page *url.URL) []string {
	asked := []string{"/api/session"}
	if bench := benchAddress.FindStringSubmatch(page.Path); bench != nil {
		record, err := strconv.Atoi(page.Query().Get("record"))
		if err != nil {
			record = 1
		}
		design := "/api/designs/" + bench[1]
		asked = append(asked, design, design+"/strip?record="+strconv.Itoa(record), "/api/typefaces",
			"/api/typefaces/files", "/api/record-sets", "/api/parts")
	}
	return asked
}

// An interfaceFiles is the built interface as it is served.
type interfaceFiles struct {
	files fs.FS
	page  []byte // the one page; it finds its place by itself
	// the address of what the page begins with, whose name changes with all that is built; empty: it is not built
	code string
}

var beginsWith = regexp.MustCompile(`<script type="module"[^>]* src="(/assets/[^"]+)"`)

func interfaceOf(files fs.FS) *interfaceFiles {
	s := &interfaceFiles{files: files}
	page, err := fs.ReadFile(files, "index.html")
	if err != nil {
		page, _ = fs.ReadFile(files, "placeholder.html") // one of the two is embedded
	}
	s.page = page
	if code := beginsWith.FindSubmatch(page); code != nil {
		s.code = string(code[1])
	}
	return s
}

// serve serves a file of the interface, or the page to an address of its own making. Who is signed in keeps the page,
// and is told with the session when another is served by now (api.Session.Page).
func (s *interfaceFiles) serve(c *gin.Context) {
	path := strings.TrimPrefix(c.Request.URL.Path, "/")
	if strings.HasPrefix(path, "api/") {
		writeProblem(c, http.StatusNotFound, noAddress.With())
		return
	}
	if strings.HasPrefix(path, "assets/") { // their names change with their contents
		c.Header("Cache-Control", "public, max-age=31536000, immutable")
	}
	if info, err := fs.Stat(s.files, path); path != "" && err == nil && !info.IsDir() {
		http.FileServerFS(s.files).ServeHTTP(c.Writer, c.Request)
		return
	}
	if packed, err := fs.ReadFile(s.files, path+".gz"); strings.HasSuffix(path, ".wasm") && err == nil {
		servePacked(c, packed, "application/wasm")
		return
	}
	c.Header("Cache-Control", "no-cache")
	if first, _, _ := strings.Cut(path, "/"); !slices.Contains(places, first) {
		writeProblem(c, http.StatusNotFound, noAddress.With())
		return
	}
	if _, err := c.Cookie(sessionCookie); err == nil {
		if s.code != "" {
			c.Header("Cache-Control", "private, max-age=604800")
		}
		for _, address := range asksFirst(c.Request.URL) {
			c.Writer.Header().Add("Link", "<"+address+">; rel=preload; as=fetch; crossorigin")
		}
	}
	c.Data(http.StatusOK, "text/html; charset=utf-8", s.page)
}
