package reach_test

import (
	"net/http"
	"net/http/httptest"
	"net/netip"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"oddspool/internal/reach"
)

func TestOnlyWhatIsAllowedIsReached(t *testing.T) {
	networks, err := reach.Parse("192.0.2.0/24, 198.51.100.7,2001:db8::/32")
	require.NoError(t, err)
	guard := &reach.Guard{Networks: networks, Exactly: []netip.AddrPort{netip.MustParseAddrPort("127.0.0.1:8631")}}
	for address, allowed := range map[string]bool{
		"10.1.2.3:631": true, "192.168.0.9:631": true, "[fd00::1]:631": true, "192.0.2.200:80": true,
		"198.51.100.7:631": true, "[2001:db8::1]:631": true,
		"127.0.0.1:8631": true, "[::ffff:127.0.0.1]:8631": true, "127.0.0.1:5432": false, "[::1]:631": false,
		"169.254.169.254:80": false,
		"[fe80::1]:631":      false, "0.0.0.0:631": false, "224.0.0.1:631": false, "8.8.8.8:631": false,
		"198.51.100.8:631": false, "[::ffff:127.0.0.1]:80": false,
	} {
		err := guard.Check(netip.MustParseAddrPort(address))
		require.Equal(t, allowed, err == nil, address)
	}
	_, err = reach.Parse("everywhere")
	require.ErrorContains(t, err, "no network")
}

// A name is judged by what it stands for when it is connected to.
func TestNamesAreJudgedByTheirAddresses(t *testing.T) {
	server := httptest.NewServer(http.NotFoundHandler())
	defer server.Close()
	get := func(guard *reach.Guard) error {
		response, err := (&http.Client{Transport: guard.Transport()}).Get(strings.Replace(server.URL, "127.0.0.1",
			"localhost", 1))
		if err == nil {
			response.Body.Close()
		}
		return err
	}
	var forbidden *reach.ForbiddenError
	require.ErrorAs(t, get(&reach.Guard{}), &forbidden)
	require.NoError(t, get(nil))
	require.NoError(t, get(&reach.Guard{Exactly: []netip.AddrPort{netip.MustParseAddrPort(strings.TrimPrefix(server.URL,
		"http://"))}}))
}
