module Helpers
  class Constants
    def self.min_ios_version_supported
      return '15.1'
    end
  end
end
