"""What a derived model consists of; findings as data."""
