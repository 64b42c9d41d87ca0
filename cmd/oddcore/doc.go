//go:build !(js && wasm)

// Oddcore is built for GOOS=js GOARCH=wasm; see main.go.
package main

func main() {}
