-- Words tell menus apart from now on, so those that were kept are reckoned anew.
delete from page_difference;
