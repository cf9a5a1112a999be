"""The computation: documents, cascade, layout, painting, behaviour. No interface code."""
