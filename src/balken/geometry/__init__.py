"""Points, lines, rings and prisms in millimetres; nothing here knows about buildings."""
