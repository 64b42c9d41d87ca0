package design

// Parse reads a design document. In a page it is its own, which the server checks against the schema: what checks it
// takes two thirds of the time that the core needs to start there. Its error is that of Trusted.
func Parse(data []byte) (*Design, error) { return Trusted(data) }
