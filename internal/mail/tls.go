package mail

import (
	"crypto/tls"
	"net"
)

func tlsConfig(host string) *tls.Config {
	return &tls.Config{ServerName: host, MinVersion: tls.VersionTLS12}
}

func tlsClient(conn net.Conn, host string) net.Conn { return tls.Client(conn, tlsConfig(host)) }
