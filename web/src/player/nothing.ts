export {} // stands in for a package that is left out of the build
