require_relative './cocoapods/helpers.rb'

def min_ios_version_supported
  return Helpers::Constants.min_ios_version_supported
end
