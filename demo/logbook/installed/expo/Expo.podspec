Pod::Spec.new do |s|
  s.name = 'Expo'
  s.version = '53.0.20'
  s.summary = 'Expo'
  s.homepage = 'https://docs.expo.dev'
  s.license = 'MIT'
  s.author = 'Expo'
  s.source = { git: 'https://docs.expo.dev' }
  s.platforms = { :ios => '15.1' }
  s.source_files = 'ios/**/*.swift'
end
