package series_test

import (
	"testing"

	"oddspool/internal/server/servertest"
	"oddspool/internal/testkit"
)

func TestMain(m *testing.M) { testkit.Main(m) }

// A site is a server, with what the tests here do at it.
type site struct{ *servertest.Site }

func newSite(t testing.TB) *site { return &site{servertest.New(t)} }
