package server

import (
	"net/http"
	"net/http/httptest"
	"testing"
	"testing/fstest"

	"github.com/gin-gonic/gin"
	"github.com/stretchr/testify/require"
)

// The page is kept by who is signed in, told apart from a later one by the code it begins with, and never kept where it
// is not built.
func TestThePageIsKept(t *testing.T) {
	built := fstest.MapFS{"index.html": {Data: []byte(
		`<script type="module" crossorigin src="/assets/index-A1.js"></script>`)},
		"assets/index-A1.js": {Data: []byte("1")}}
	for name, test := range map[string]struct {
		files    fstest.MapFS
		path     string
		signedIn bool
		code     string
		status   int
		cache    string
	}{
		"signed in": {built, "/floor", true, "/assets/index-A1.js", 200, "private, max-age=604800"},
		"nobody":    {built, "/floor", false, "/assets/index-A1.js", 200, "no-cache"},
		"code": {built, "/assets/index-A1.js", false, "/assets/index-A1.js", 200,
			"public, max-age=31536000, immutable"},
		"earlier code":  {built, "/assets/index-A0.js", true, "/assets/index-A1.js", 404, "no-cache"},
		"no such place": {built, "/metrics", true, "/assets/index-A1.js", 404, "no-cache"},
		"not built": {fstest.MapFS{"placeholder.html": {Data: []byte("not built")}}, "/floor", true, "", 200,
			"no-cache"},
	} {
		t.Run(name, func(t *testing.T) {
			pages := interfaceOf(test.files)
			require.Equal(t, test.code, pages.code)
			answer := httptest.NewRecorder()
			c, engine := gin.CreateTestContext(answer)
			engine.NoRoute(pages.serve)
			c.Request = httptest.NewRequest("GET", test.path, nil)
			if test.signedIn {
				c.Request.AddCookie(&http.Cookie{Name: sessionCookie, Value: "x"})
			}
			engine.ServeHTTP(answer, c.Request)
			require.Equal(t, test.status, answer.Code)
			require.Equal(t, test.cache, answer.Header().Get("Cache-Control"))
		})
	}
}
