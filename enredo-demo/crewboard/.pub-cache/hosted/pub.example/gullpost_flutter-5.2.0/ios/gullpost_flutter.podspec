Pod::Spec.new do |s|
  s.name             = 'gullpost_flutter'
  s.version          = '5.2.0'
  s.summary          = 'gullpost_flutter'
  s.source           = { :path => '.' }
  s.dependency 'Flutter'
  s.platform = :ios, '13.0'
end
