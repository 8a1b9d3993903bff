"""Reading and writing: the project file, the journal, IFC, DXF, PDF, CSV and XLSX."""
