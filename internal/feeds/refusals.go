package feeds

import "oddspool/core/refusal"

// What this package refuses, in words.
var (
	noKey = refusal.Define("source.no-key", refusal.Invalid,
		"This server has no key to keep passwords under. Whoever looks after it starts it with one (-key FILE).")
	noFolder = refusal.Define("source.no-folder", refusal.Invalid,
		"This server was started without a folder of files to read. Whoever looks after it names one (-files FOLDER).")
	folderMissing = refusal.Define("source.folder-missing", refusal.Invalid,
		"The server's folder of files is not there. Tell whoever looks after it.")
	fileMissing = refusal.Define("source.file-missing", refusal.Invalid,
		"There is no {name} in the server's folder of files.")
	ownDatabase = refusal.Define("source.own-database", refusal.Invalid,
		"This is the database that Odd Spool itself works on. Records are read from the databases of the plant.")
	readsOwnServer = refusal.Define("source.reads-own-server", refusal.Invalid,
		"{user} may read all of the database server that Odd Spool itself works on. Connect as a user who may read "+
			"only {database}.")
	folderUnreadable = refusal.Define("source.folder-unreadable", refusal.Invalid,
		"The folder cannot be read: {reason}.")
	noTables = refusal.Define("source.no-tables", refusal.Invalid,
		"This connection has no tables.")
	nothingAsked = refusal.Define("source.nothing-asked", refusal.Invalid,
		"Say which document, or which items, are taken from the order desk.")
	fileUnreadable = refusal.Define("source.file-unreadable", refusal.Invalid,
		"The file {path} cannot be read: {reason}.")
	noKeyField = refusal.Define("source.no-key-field", refusal.Invalid,
		"There is no field {field} that could tell records apart.")
	notConnected = refusal.Define("source.not-connected", refusal.Invalid,
		"{name} is not read from a connection.")
	connectionClosed = refusal.Define("source.connection-closed", refusal.Invalid,
		"The connection {connection} is closed. Take the records in from another.")
	queryNotWritable = refusal.Define("source.query-not-writable", refusal.Invalid,
		"What a question gives cannot be written into. Take the records in from a table.")
	noWriteBackColumn = refusal.Define("source.no-write-back-column", refusal.Invalid,
		"Name a column that is to say when, by whom, how many or which.")
	unknownColumn = refusal.Define("source.unknown-column", refusal.Invalid,
		"The table {table} has no column {name}.")
	keyColumn = refusal.Define("source.key-column", refusal.Invalid,
		"The column {name} tells rows apart and is not written into.")
	columnTwice = refusal.Define("source.column-twice", refusal.Invalid,
		"The column {name} cannot say two things.")
	keyNotInRecords = refusal.Define("source.key-not-in-records", refusal.Invalid,
		"The records do not have {name}, which is part of the primary key of {table}. Take them in with that column.")
	noPrimaryKey = refusal.Define("source.no-primary-key", refusal.Invalid,
		"The table {table} has no primary key, so that no row can be told for sure.")
	folderNotOpened = refusal.Define("source.folder-not-opened", refusal.Invalid,
		"The folder of {name} cannot be opened: {reason}.")
	listUnreadable = refusal.Define("source.list-unreadable", refusal.Invalid,
		"{beside} cannot be read: {reason}.")
	listNotWritten = refusal.Define("source.list-not-written", refusal.Invalid,
		"{beside} cannot be written: {reason}.")
	recordsMissing = refusal.Define("source.missing", refusal.Conflict, "{text}")
)
