package gs1

import "fmt"

// Coupons of North America (GS1 AIDC North American Coupon Application Guideline, application
// identifiers 8110 and 8112): digits whose lengths other digits tell. A coupon ends with optional parts,
// each of which begins with its number and which stand in ascending order.

// A couponReader takes a coupon apart. After its first problem it takes no more.
type couponReader struct {
	rest    string
	problem string
}

// take returns the next n digits.
func (c *couponReader) take(n int, what string) string {
	if c.problem != "" {
		return ""
	}
	if len(c.rest) < n {
		c.problem = fmt.Sprintf("the coupon ends within its %s.", what)
		return ""
	}
	taken := c.rest[:n]
	c.rest = c.rest[n:]
	return taken
}

// one takes a digit that must be one of some.
func (c *couponReader) one(of, what string) int {
	digit := c.take(1, what)
	if c.problem == "" {
		for i := range len(of) {
			if of[i] == digit[0] {
				return int(digit[0] - '0')
			}
		}
		c.problem = fmt.Sprintf("the %s of the coupon cannot be %s.", what, digit)
	}
	return 0
}

// digitsAfterLength takes a digit, one of some, that tells how many digits follow beyond least, and those.
func (c *couponReader) digitsAfterLength(of string, least int, what string) {
	n := c.one(of, "length of the "+what)
	c.take(n+least, what)
}

// company takes a company prefix of a further purchase; 9 stands for that of the coupon.
func (c *couponReader) company(what string) {
	if n := c.one("01234569", "length of the "+what); n != 9 {
		c.take(n+6, what)
	}
}

// part tells whether an optional part follows, and takes its number.
func (c *couponReader) part(number byte) bool {
	if c.problem != "" || c.rest == "" || c.rest[0] != number {
		return false
	}
	c.rest = c.rest[1:]
	return true
}

func (c *couponReader) purchase(which string) {
	c.digitsAfterLength("12345", 0, which+" purchase requirement")
	c.one("012349", which+" purchase requirement code")
	c.take(3, which+" purchase family code")
}

func (c *couponReader) day(what string) string {
	day := c.take(6, what)
	if c.problem == "" {
		c.problem = date(day, false)
	}
	return day
}

func allDigits(value string) bool {
	for i := range len(value) {
		if !isDigit(value[i]) {
			return false
		}
	}
	return true
}

func couponCode(value string) string {
	if !allDigits(value) {
		return "a coupon has only digits."
	}
	c := &couponReader{rest: value}
	c.digitsAfterLength("0123456", 6, "company prefix")
	c.take(6, "offer code")
	c.digitsAfterLength("12345", 0, "save value")
	c.purchase("first")
	if c.part('1') {
		c.one("0123", "additional purchase rules code")
		c.purchase("second")
		c.company("second company prefix")
	}
	if c.part('2') {
		c.purchase("third")
		c.company("third company prefix")
	}
	ends, begins := "", ""
	if c.part('3') {
		ends = c.day("expiration date")
	}
	if c.part('4') {
		if begins = c.day("start date"); c.problem == "" && ends != "" && ends < begins {
			c.problem = "the coupon ends before it begins."
		}
	}
	if c.part('5') {
		c.digitsAfterLength("0123456789", 6, "serial number")
	}
	if c.part('6') {
		c.digitsAfterLength("1234567", 6, "retailer's number")
	}
	if c.part('9') {
		c.one("01256", "save value code")
		c.one("012", "item that the value applies to")
		c.take(1, "store coupon flag")
		c.one("01", "flag against multiplying")
	}
	if c.problem == "" && c.rest != "" {
		c.problem = fmt.Sprintf("%s at the end of the coupon is none of its parts, which stand in ascending order.",
			c.rest)
	}
	return c.problem
}

func couponOffer(value string) string {
	if !allDigits(value) {
		return "an offer has only digits."
	}
	c := &couponReader{rest: value}
	c.one("01", "format")
	c.digitsAfterLength("0123456", 6, "funder")
	c.take(6, "offer code")
	c.digitsAfterLength("0123456789", 6, "serial number")
	if c.problem == "" && c.rest != "" {
		c.problem = fmt.Sprintf("%s at the end of the offer is too much.", c.rest)
	}
	return c.problem
}
