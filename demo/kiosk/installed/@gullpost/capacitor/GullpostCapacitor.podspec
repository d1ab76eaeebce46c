Pod::Spec.new do |s|
  s.name = 'GullpostCapacitor'
  s.version = '5.2.0'
  s.ios.deployment_target = '14.0'
  s.dependency 'Capacitor'
end
