package runs

import (
	"context"
	"errors"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"testing"

	"oddspool/internal/server/handler"

	"github.com/gin-gonic/gin"
	"github.com/stretchr/testify/require"
)

// A file that breaks in the middle does not look whole.
func TestABrokenFileIsCutOff(t *testing.T) {
	gin.SetMode(gin.TestMode)
	engine := gin.New()
	s := &Runs{Base: handler.Base{Log: slog.New(slog.DiscardHandler)}}
	for path, end := range map[string]func() error{"/whole": func() error { return nil },
		"/fault": func() error { return errors.New("full") }, "/panic": func() error { panic("x") }} {
		engine.GET(path, func(c *gin.Context) {
			_ = labelFile{"x.pdf", func(w io.Writer) {
				s.stream(context.Background(), w, func(w io.Writer) error {
					_, _ = io.WriteString(w, "some")
					return end()
				})
			}}.VisitWriteLabelsResponse(c.Writer)
		})
	}
	site := httptest.NewServer(engine)
	defer site.Close()
	for path, whole := range map[string]bool{"/whole": true, "/fault": false, "/panic": false} {
		response, err := http.Get(site.URL + path)
		if err == nil {
			_, err = io.ReadAll(response.Body)
			response.Body.Close()
		}
		require.Equal(t, whole, err == nil, path)
	}
}
