// Package examples embeds the example designs and records of Brinewick Kelp Works, which the
// demonstration is made from.
package examples

import "embed"

// Files are the examples.
//
//go:embed *.json *.csv
var Files embed.FS
