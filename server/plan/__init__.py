"""Projects, WBS, activities, links, resources, assignments and costs, as rows of a book."""
