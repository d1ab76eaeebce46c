Pod::Spec.new do |s|
  s.name = 'TollbuoyCapacitor'
  s.version = '3.1.4'
  s.ios.deployment_target = '14.0'
  s.dependency 'Capacitor'
end
