package standin

import (
	"encoding/json"
	"net/http"
)

// Issuer stands in for who issues reference packs: a folder of the web with the newest pack, and latest.json, which
// names it.
func Issuer(version string, pack []byte) http.Handler {
	mux := http.NewServeMux()
	file := version + ".zip"
	mux.HandleFunc("GET /latest.json", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "application/json")
		_ = json.NewEncoder(w).Encode(map[string]string{"version": version, "file": file})
	})
	mux.HandleFunc("GET /"+file, func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "application/zip")
		_, _ = w.Write(pack)
	})
	return mux
}
