# What AUTOMOC calls: cmake/moc-alone.in. To be included where Qt has been found.
get_target_property(AMBER_MOC Qt6::moc IMPORTED_LOCATION)
if(NOT AMBER_MOC)
  get_target_property(AMBER_MOC Qt6::moc IMPORTED_LOCATION_NONE)
endif()
configure_file(${PROJECT_SOURCE_DIR}/cmake/moc-alone.in ${PROJECT_BINARY_DIR}/moc-alone @ONLY)
file(CHMOD ${PROJECT_BINARY_DIR}/moc-alone PERMISSIONS OWNER_READ OWNER_WRITE OWNER_EXECUTE GROUP_READ GROUP_EXECUTE WORLD_READ
  WORLD_EXECUTE)
function(amber_moc target)
  set_target_properties(${target} PROPERTIES AUTOMOC_EXECUTABLE ${PROJECT_BINARY_DIR}/moc-alone)
endfunction()
